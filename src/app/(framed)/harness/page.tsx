import { HarnessView } from '@/ui/harness/harness-view'

const Page = () => <HarnessView />

export default Page
