import type { NextConfig } from 'next'

const config: NextConfig = {
  distDir: process.env.ARCH_DIST ?? '.next',
  serverExternalPackages: ['knex', 'pg', 'pino', 'iconv-lite', 'chardet', 'graphile-worker', 'yauzl', 'pdfkit', 'fontkit'],
  experimental: { serverActions: { bodySizeLimit: '2mb' }, turbopackFileSystemCacheForBuild: true },
  // The tests check types by themselves, and need not wait for it twice.
  typescript: { ignoreBuildErrors: process.env.ARCH_TYPES === 'checked' },
  poweredByHeader: false,
  reactCompiler: true,
  async headers() {
    return [
      {
        source: '/:path*',
        headers: [
          // Scripts of our own only; the framework writes some of its own inline.
          {
            key: 'Content-Security-Policy',
            value:
              "default-src 'self'; script-src 'self' 'unsafe-inline'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'",
          },
          { key: 'X-Frame-Options', value: 'DENY' },
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
    ]
  },
}

export default config
