import type { NextConfig } from 'next'

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  serverExternalPackages: ['pg'],
  // Types are checked by bin/test, once, for the whole project.
  typescript: { ignoreBuildErrors: true },
}

export default config
