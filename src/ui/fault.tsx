import type { Problem } from '@/core/quantities';

/** What is wrong, and what to do: in words, at its place, said aloud. */
export function Fault({ of, id }: { readonly of: Problem | string | undefined; readonly id?: string }) {
  if (of === undefined) return null;
  return (
    <p id={id} role="alert" className="mt-1 text-sm font-medium text-stop">
      {typeof of === 'string' ? of : of.message}
    </p>
  );
}
