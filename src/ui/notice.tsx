import type { ReactNode } from 'react';

const looks = { caution: 'border-caution', stop: 'border-stop', plain: 'border-line' } as const;
const words = { caution: 'Caution', stop: 'Stop', plain: '' } as const;

/** A caution or a fault, in words, with its weight said in words too. */
export function Notice({
  tone = 'plain',
  children,
  role,
}: {
  readonly tone?: keyof typeof looks;
  readonly children: ReactNode;
  readonly role?: 'alert' | 'status';
}) {
  return (
    <div role={role} className={`border-l-4 bg-surface px-3 py-2 text-[0.95rem] leading-snug ${looks[tone]}`}>
      {words[tone] !== '' && <strong className={tone === 'stop' ? 'text-stop' : 'text-caution'}>{words[tone]}. </strong>}
      {children}
    </div>
  );
}

export const Simulated = () => (
  <strong className="border border-stop px-1.5 py-0.5 text-xs font-bold uppercase tracking-wider text-stop">Simulated</strong>
);
