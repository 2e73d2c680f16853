export default function NotFound() {
  return (
    <main className="mx-auto grid max-w-[460px] gap-4 px-6 pt-[12vh] pb-12">
      <h1>This link is not complete</h1>
      <p>Copy all of the link from the email and open it again. Or answer the email and ask us to stop.</p>
    </main>
  )
}
