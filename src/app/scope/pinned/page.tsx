import { PinnedWindow } from '@/ui/scope/pinned-window'

const Page = () => <PinnedWindow />

export default Page
