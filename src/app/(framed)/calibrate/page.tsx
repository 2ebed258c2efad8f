import { Calibrate } from '@/ui/calibrate/calibrate'

const Page = () => <Calibrate />

export default Page
