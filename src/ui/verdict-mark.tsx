import type { TestVerdict } from '@/core/course';
import { verdictWords } from '@/core/record';

/** The family of block shapes: whole, notched, split, hatched, struck-through outline, rising. The word always stands beside. */
const shapes: Record<TestVerdict, React.ReactNode> = {
  pass: <rect x="3" y="3" width="18" height="18" fill="currentColor" />,
  'pass with permitted drop': <path d="M3 3h18v9h-9v9H3z" fill="currentColor" />,
  restricted: <path d="M3 12h18v9H3zM3 3h9v6H3z" fill="currentColor" />,
  fail: <path d="M3 3h10l-4 18H3zM17 3h4v18h-8z" fill="currentColor" />,
  inconclusive: <path d="M4 4h16v16H4zM4 10l6-6M4 16L16 4M8 20L20 8M14 20l6-6" fill="none" stroke="currentColor" strokeWidth="2" />,
  invalid: <path d="M4 4h16v16H4zM1 23L23 1" fill="none" stroke="currentColor" strokeWidth="2" />,
  'in progress': <path d="M3 15h5v6H3zM10 9h5v12h-5zM17 3h4v18h-4z" fill="currentColor" />,
};

const colours: Record<TestVerdict, string> = {
  pass: 'text-action',
  'pass with permitted drop': 'text-action',
  restricted: 'text-caution',
  fail: 'text-stop',
  inconclusive: 'text-caution',
  invalid: 'text-stop',
  'in progress': 'text-quiet',
};

export function VerdictMark({
  verdict,
  size = 20,
  withWord = true,
}: {
  readonly verdict: TestVerdict;
  readonly size?: number;
  readonly withWord?: boolean;
}) {
  return (
    <span className={`inline-flex items-center gap-2 font-semibold ${colours[verdict]}`}>
      <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
        {shapes[verdict]}
      </svg>
      {withWord && <span>{verdictWords[verdict].title}</span>}
    </span>
  );
}
