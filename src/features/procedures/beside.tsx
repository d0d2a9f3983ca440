'use client';

import { useRouter } from 'next/navigation';
import { Choice } from '@/ui/choice';

/** Which two procedures stand side by side. */
export function Beside({
  all,
  first,
  second,
}: {
  readonly all: readonly { readonly id: string; readonly title: string }[];
  readonly first: string;
  readonly second: string;
}) {
  const router = useRouter();
  const options = all.map(({ id, title }) => ({ value: id, label: title }));
  const show = (one: string, other: string) => router.push(`/procedures/compare?first=${one}&second=${other}`);
  return (
    <>
      <div className="min-w-52 flex-1 sm:max-w-xs">
        <span id="beside-first" className="font-medium">
          This
        </span>
        <Choice className="mt-1" labelledBy="beside-first" options={options} value={first} change={(id) => show(id, second)} />
      </div>
      <div className="min-w-52 flex-1 sm:max-w-xs">
        <span id="beside-second" className="font-medium">
          beside this
        </span>
        <Choice className="mt-1" labelledBy="beside-second" options={options} value={second} change={(id) => show(first, id)} />
      </div>
    </>
  );
}
