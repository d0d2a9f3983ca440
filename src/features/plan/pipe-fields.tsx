import { useState } from 'react';
import { unknownVolume } from '@/core/planning';
import type { Problem } from '@/core/quantities';
import { type MeasuredSteps, measuredLine, measuredSteps, parsePipeSchedule, parseVolume, systemVolume } from '@/core/sizing';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Fault } from '@/ui/fault';
import { Field } from '@/ui/field';
import type { Draft } from './use-draft';

type Way = 'schedule' | 'measured' | 'stated' | 'unknown';

const wayOf = (statedVolume: string): Way =>
  statedVolume.trim() === ''
    ? 'schedule'
    : statedVolume.trim().toLowerCase() === unknownVolume
      ? 'unknown'
      : measuredSteps(statedVolume) === undefined
        ? 'stated'
        : 'measured';

/** Pipes by fast typing, with their volume at once; or the volume, where the lengths are not known. Asked large only where it decides. */
export function PipeFields({
  draft: { pipes, statedVolume },
  change,
  pipe,
  problems,
  decides,
  byGas,
}: {
  readonly draft: Pick<Draft, 'pipes' | 'statedVolume'>;
  readonly change: (part: Partial<Draft>) => void;
  readonly pipe: (pipes: string) => void;
  readonly problems: readonly Problem[];
  /** A time, a limit or the scope hangs on it; else it only says what the test can see. */
  readonly decides: boolean;
  /** Gas fills it: its volume can be measured by letting some in. */
  readonly byGas: boolean;
}) {
  const [way, setWay] = useState<Way>(wayOf(statedVolume));
  const of = (field: string) => problems.find((problem) => problem.field === field);
  const isEmpty = pipes.trim() === '' && statedVolume.trim() === '';
  const fields = (
    <div className="space-y-2">
      <Choice<Way>
        label="How the volume is known"
        options={[
          { value: 'schedule', label: 'Pipe by pipe' },
          ...(byGas || way === 'measured' ? [{ value: 'measured' as const, label: 'Measured' }] : []),
          { value: 'stated', label: 'Estimated' },
          ...(decides && way !== 'unknown' ? [] : [{ value: 'unknown' as const, label: 'Not known' }]),
        ]}
        value={way}
        change={(next) => {
          setWay(next);
          // One of them counts: what was said in another way stays out of the sum.
          change({ statedVolume: next === 'unknown' ? unknownVolume : '' });
        }}
      />
      {way === 'schedule' && (
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
      )}
      {way === 'measured' && (
        <MeasuredFields
          said={measuredSteps(statedVolume) ?? { letIn: '', before: '', after: '' }}
          change={(steps) => change({ statedVolume: measuredLine(steps) })}
          problem={of('volume')}
        />
      )}
      {way === 'stated' && (
        <Field
          id="statedVolume"
          label="Volume of the pipes"
          help="Without meter and rig. Estimated as 10..14 L it is planned for the larger, which hides a larger leak."
          problem={of('volume')}
        >
          <input
            id="statedVolume"
            className={`${input} figures`}
            placeholder="10..14 L"
            value={statedVolume}
            onChange={(event) => change({ statedVolume: event.target.value })}
          />
        </Field>
      )}
      {way === 'unknown' && <Fault id="volume-help" of={of('volume')} />}
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
            {way === 'unknown'
              ? 'not known: the limits stand, and no leak rate is claimed'
              : statedVolume.trim() !== ''
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

const measuringSteps = [
  {
    key: 'before',
    label: 'Gauge before',
    says: 'Everything shut, the rig on: let it settle and read the gauge.',
    placeholder: '1.50 mbar',
  },
  {
    key: 'letIn',
    label: 'Gas let in',
    says: 'Let a known amount in: by a syringe or pump, or so much on the meter’s dial.',
    placeholder: '0.6 L',
  },
  { key: 'after', label: 'Gauge after', says: 'Let it settle, and read the same gauge again.', placeholder: '21.50 mbar' },
] as const;

/** A volume measured step by step: the gauge, what was let in, the gauge again; what it comes to stands below at once. */
function MeasuredFields({
  said,
  change,
  problem,
}: {
  readonly said: MeasuredSteps;
  readonly change: (steps: MeasuredSteps) => void;
  readonly problem: Problem | undefined;
}) {
  // As typed, spaces and all: the line that is kept has none at its ends.
  const [steps, setSteps] = useState(said);
  const put = (next: MeasuredSteps) => {
    setSteps(next);
    change(next);
  };
  const volume = parseVolume(measuredLine(steps));
  const isWhole = Object.values(steps).every((one) => one.trim() !== '');
  return (
    <fieldset className="border-l-4 border-line pl-3" aria-describedby="measured-help">
      <legend className="sr-only">Measured volume</legend>
      <ol className="space-y-2">
        {measuringSteps.map(({ key, label, says, placeholder }, index) => (
          <li key={key}>
            <label htmlFor={`measured-${key}`}>
              <span className="font-medium">
                {index + 1}. {label}
              </span>
              <span className="block text-sm text-quiet">{says}</span>
            </label>
            <input
              id={`measured-${key}`}
              autoComplete="off"
              className={`${input} figures mt-0.5`}
              placeholder={placeholder}
              value={steps[key]}
              onChange={({ target }) => put({ ...steps, [key]: target.value })}
            />
          </li>
        ))}
      </ol>
      {volume.ok ? (
        <output className="figures mt-1 block" data-testid="measured-volume">
          {volume.value.litres.toFixed(1)} L, meter and rig with it
        </output>
      ) : isWhole ? (
        <Fault id="measured-help" of={volume.problem} />
      ) : (
        problem !== undefined && <Fault id="measured-help" of={problem} />
      )}
    </fieldset>
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
