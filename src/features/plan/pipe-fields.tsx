import { useState } from 'react';
import type { Problem } from '@/core/quantities';
import { parsePipeSchedule, systemVolume } from '@/core/sizing';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Field } from '@/ui/field';
import type { Draft } from './use-draft';

type Way = 'schedule' | 'volume';

/** Pipes by fast typing, with their volume at once; or the volume, where the lengths are not known. Asked large only where it decides. */
export function PipeFields({
  draft: { pipes, statedVolume },
  change,
  pipe,
  problems,
  decides,
}: {
  readonly draft: Pick<Draft, 'pipes' | 'statedVolume'>;
  readonly change: (part: Partial<Draft>) => void;
  readonly pipe: (pipes: string) => void;
  readonly problems: readonly Problem[];
  /** A time, a limit or the scope hangs on it; else it only says what the test can see. */
  readonly decides: boolean;
}) {
  const [way, setWay] = useState<Way>(statedVolume.trim() === '' ? 'schedule' : 'volume');
  const of = (field: string) => problems.find((problem) => problem.field === field);
  const isEmpty = pipes.trim() === '' && statedVolume.trim() === '';
  const fields = (
    <div className="space-y-2">
      <Choice<Way>
        label="How the volume is known"
        options={[
          { value: 'schedule', label: 'Pipe by pipe' },
          { value: 'volume', label: 'Volume, measured or estimated' },
        ]}
        value={way}
        change={(next) => {
          setWay(next);
          // One of the two counts: the other stays out of the sum.
          if (next === 'schedule') change({ statedVolume: '' });
        }}
      />
      {way === 'schedule' ? (
        <Field
          id="pipes"
          label="Pipe schedule"
          help="A line each: size, material, length, or its low and high estimate. 22cu 6.5 · 22cu 6..9 · 1sch40 40ft · 3/4cu 20ft · 16x2pex 8"
          problem={of('size') ?? of('length') ?? of('volume') ?? problems.find(({ code }) => code.startsWith('pipe-line'))}
        >
          <textarea
            id="pipes"
            rows={Math.max(2, pipes.split('\n').length + 1)}
            className={`${input} figures`}
            value={pipes}
            onChange={(event) => pipe(event.target.value)}
            spellCheck={false}
          />
          <Totals pipes={pipes} />
        </Field>
      ) : (
        <Field
          id="statedVolume"
          label="Volume of the pipes"
          help="Estimated as 10..14 L: it is planned for the larger, which hides a larger leak. Measured, as what was let in and the rise it made: 0.6 L at 20 mbar."
          problem={of('volume')}
        >
          <input
            id="statedVolume"
            className={`${input} figures`}
            placeholder="12.5 L"
            value={statedVolume}
            onChange={(event) => change({ statedVolume: event.target.value })}
          />
        </Field>
      )}
    </div>
  );
  if (decides && (isEmpty || problems.length > 0)) return fields;
  const said = pipes.split('\n').filter((line) => line.trim() !== '');
  return (
    <Disclosure
      look=""
      title={
        <>
          <span className="font-medium">Pipes</span>{' '}
          <span className="figures text-sm text-quiet">
            {statedVolume.trim() !== ''
              ? statedVolume
              : said.length > 0
                ? said.join(' · ')
                : 'not given: the limits stand, and no leak rate is claimed'}
          </span>
        </>
      }
    >
      {fields}
    </Disclosure>
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
