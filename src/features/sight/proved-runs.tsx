import { proved } from '@/core/library';

/** What the claims of a procedure came to when they were proved on plants made for that alone. */
export function ProvedRuns({ procedureId }: { readonly procedureId: string }) {
  const rows = proved.filter((row) => row.procedure === procedureId);
  if (rows.length === 0) return null;
  const of = (count: number, runs: number): string => `${Number(((100 * count) / runs).toFixed(1))} %`;
  return (
    <div className="mt-3 text-sm" data-testid="proved">
      <h3 className="font-medium">Proved by simulation</h3>
      <ul className="space-y-1">
        {rows.map((row) => (
          <li key={row.case}>
            <span className="text-quiet">{row.case}: </span>
            of {row.runs} leaks of 1.05 to 1.5 times what it is sure of, <b>{row.passedOverSure === 0 ? 'none' : row.passedOverSure}</b>{' '}
            passed; of {row.runs} sound systems {of(row.soundPassed, row.runs)} passed, {of(row.soundFailed, row.runs)} were failed and{' '}
            {of(row.runs - row.soundPassed - row.soundFailed, row.runs)} stayed inconclusive.
          </li>
        ))}
      </ul>
      <p className="mt-1 text-quiet">
        By the procedure’s own figures, on plants and by hands that share nothing with this program’s own; in every hold pipe and air drift
        anew, anywhere within what “sure” takes for granted; with a leak half of the time as far as that goes.
      </p>
    </div>
  );
}
