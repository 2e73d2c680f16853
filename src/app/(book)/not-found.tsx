import Link from 'next/link'

export default function NotFound() {
  return (
    <main className="leaf mx-auto max-w-[560px] pt-16">
      <h1>There is nothing here</h1>
      <p className="mt-2 text-soft">This page does not exist, was deleted, or is private to somebody else.</p>
      <Link href="/lists" className="button mt-4">
        Go to the lists
      </Link>
    </main>
  )
}
