import { Paths } from '@/ui/paths/paths'

const Page = () => <Paths />

export default Page
