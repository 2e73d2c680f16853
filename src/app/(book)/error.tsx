'use client'

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="leaf mx-auto max-w-[560px] pt-16">
      <h1>This page could not be shown</h1>
      <p className="mt-2 text-soft">
        Something went wrong on our side. What you saved is safe. You may have to retype what you had not saved.
      </p>
      <button type="button" onClick={reset} className="button mt-4">
        Try again
      </button>
    </main>
  )
}
