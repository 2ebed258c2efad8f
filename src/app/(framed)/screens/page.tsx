import { ScreensView } from '@/ui/screens/screens-view'

const Page = () => <ScreensView />

export default Page
