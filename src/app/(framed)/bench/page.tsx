import { Bench } from '@/ui/bench/bench'

const Page = () => <Bench />

export default Page
