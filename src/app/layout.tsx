import '@fontsource/besley/latin-600.css'
import '@fontsource/besley/latin-ext-600.css'
import '@fontsource-variable/hanken-grotesk'
import './globals.css'
import type { Metadata } from 'next'

export const metadata: Metadata = { title: { template: '%s · Arch Ledger', default: 'Arch Ledger' } }

export default function Layout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en-GB">
      <body>{children}</body>
    </html>
  )
}
