import type { NextConfig } from 'next'

const config: NextConfig = {
  distDir: process.env.ARCH_DIST ?? '.next',
  serverExternalPackages: ['knex', 'pg', 'pino', 'iconv-lite', 'chardet', 'graphile-worker'],
  experimental: { serverActions: { bodySizeLimit: '2mb' }, turbopackFileSystemCacheForBuild: true },
  poweredByHeader: false,
  async headers() {
    return [
      {
        source: '/:path*',
        headers: [
          { key: 'X-Frame-Options', value: 'DENY' },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
    ]
  },
}

export default config
