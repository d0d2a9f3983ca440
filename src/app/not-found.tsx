export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-2xl font-semibold">There is no such thing here</h1>
      <p className="mt-2 text-quiet">The address may be mistyped, or what it names was never yours to see.</p>
      <a href="/today" className="mt-4 inline-block font-medium underline">
        Today
      </a>
    </main>
  );
}
