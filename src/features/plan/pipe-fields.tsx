import type { Problem } from '@/core/quantities';
import { parsePipeSchedule, systemVolume } from '@/core/sizing';
import { input } from '@/ui/classes';
import { Field } from '@/ui/field';
import type { Draft } from './use-draft';

/** Pipes by fast typing, with their volume at once; or the volume, where the lengths are not known. */
export function PipeFields({
  draft: { pipes, statedVolume },
  change,
  problems,
  mayBeUnknown,
}: {
  readonly draft: Pick<Draft, 'pipes' | 'statedVolume'>;
  readonly change: (part: Partial<Draft>) => void;
  readonly problems: readonly Problem[];
  /** Its volume only says what the test can see. */
  readonly mayBeUnknown: boolean;
}) {
  const of = (field: string) => problems.find((problem) => problem.field === field);
  const stated = statedVolume.trim() !== '';
  return (
    <>
      <Field
        id="pipes"
        label="Pipe schedule"
        help="A line each: size, material, length, or its low and high estimate. 22cu 6.5 · 22cu 6..9 · 1sch40 40ft · 20dn 3 · 16x2pex 8 · 21.3bore 4"
        problem={
          of('size') ??
          of('length') ??
          (of('volume')?.code === 'volume-missing' ? of('volume') : undefined) ??
          problems.find(({ code }) => code.startsWith('pipe-line'))
        }
      >
        <textarea
          id="pipes"
          rows={Math.max(3, pipes.split('\n').length + 1)}
          className={`${input} figures`}
          value={pipes}
          disabled={stated}
          onChange={(event) => change({ pipes: event.target.value })}
          spellCheck={false}
        />
        {!stated && <Totals pipes={pipes} />}
      </Field>
      <Field
        id="statedVolume"
        label="Or the volume of the pipes, if the lengths are not known"
        help={`Estimated as 10..14 L: it is planned for the larger, which hides a larger leak. Measured, as what was let in and the rise it made: 0.6 L at 20 mbar. Leave empty to use the schedule.${mayBeUnknown ? ' Nobody knows it: type unknown, and the limits stand without a rate.' : ''}`}
        problem={of('volume')?.code === 'volume-missing' ? undefined : of('volume')}
      >
        <input
          id="statedVolume"
          className={`${input} figures`}
          placeholder="12.5 L"
          value={statedVolume}
          onChange={(event) => change({ statedVolume: event.target.value })}
        />
      </Field>
    </>
  );
}

/** What the lines come to so far. */
function Totals({ pipes }: { readonly pipes: string }) {
  const { pipes: runs } = parsePipeSchedule(pipes);
  const sum = systemVolume({ pipes: runs, meterL: 0, rigHoseL: 0 });
  if (!sum.ok || runs.length === 0) return null;
  const metres = runs.reduce((all, { lengthM }) => all + lengthM, 0);
  return (
    <output className="figures mt-1 block text-sm" htmlFor="pipes" data-testid="pipe-totals">
      {runs.length} line{runs.length === 1 ? '' : 's'}, {Number(metres.toFixed(1))} m, {sum.value.totalL.toFixed(2)} L with fittings
    </output>
  );
}
