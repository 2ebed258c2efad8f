import { PanelView } from '@/ui/panel/panel-view'

const Page = () => <PanelView />

export default Page
