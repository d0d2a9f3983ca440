'use client';

export default function Fault({ reset }: { readonly reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-2xl font-semibold">This page could not be made</h1>
      <p className="mt-2">
        The server or its database did not answer. Nothing you entered is lost: readings are on your device. Try again in a moment; the
        field screens work without it.
      </p>
      <div className="mt-4 flex gap-4">
        <button type="button" className="font-semibold underline" onClick={reset}>
          Try again
        </button>
        <a href="/field" className="font-semibold underline">
          Field screens
        </a>
      </div>
    </main>
  );
}
