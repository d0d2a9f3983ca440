import type { TestVerdict } from '@/core/course';
import { verdictShapes, verdictWords } from '@/core/record';

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
  const { path, drawn } = verdictShapes[verdict];
  return (
    <span className={`inline-flex items-center gap-2 font-semibold ${colours[verdict]}`}>
      <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
        <path d={path} {...(drawn === 'filled' ? { fill: 'currentColor' } : { fill: 'none', stroke: 'currentColor', strokeWidth: 2 })} />
      </svg>
      {withWord && <span>{verdictWords[verdict].title}</span>}
    </span>
  );
}
