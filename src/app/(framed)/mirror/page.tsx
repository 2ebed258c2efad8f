import { Mirror } from '@/ui/mirror/mirror'

const Page = () => <Mirror />

export default Page
