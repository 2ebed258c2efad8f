import { redirect } from 'next/navigation'

const Home = () => redirect('/bench')

export default Home
