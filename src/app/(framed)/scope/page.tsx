import { Scope } from '@/ui/scope/scope'

const Page = () => <Scope />

export default Page
