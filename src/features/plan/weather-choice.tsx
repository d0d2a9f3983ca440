import { dateText } from '@/core/judging';
import { shortestCorrectedS } from '@/core/limits';
import type { Plan } from '@/core/planning';
import { unitLabel } from '@/core/quantities';
import { type AnyInstrument, isBarometer, isThermometer } from '@/core/sizing';
import { now, offsetMinutes } from '@/device/clock';
import { Choice } from '@/ui/choice';
import type { Draft } from './use-draft';

/** What the pipe's temperature and the barometer are read on, where a hold corrects for them. */
export function WeatherChoice({
  draft: { thermometerId, barometerId },
  change,
  instruments,
  plan,
}: {
  readonly draft: Pick<Draft, 'thermometerId' | 'barometerId'>;
  readonly change: (part: Partial<Draft>) => void;
  readonly instruments: readonly AnyInstrument[];
  readonly plan: Plan | undefined;
}) {
  const corrected = plan?.phases.flatMap((phase) => (phase.kind === 'hold' && phase.corrects !== undefined ? [phase] : [])) ?? [];
  if (corrected.length === 0) return null;
  const warms = corrected.some(({ seconds }) => seconds >= shortestCorrectedS);
  return (
    <fieldset className="grid gap-3 sm:grid-cols-2">
      <legend className="mb-1 font-medium">Weather, read at both ends</legend>
      {warms && (
        <Pick
          label="Thermometer"
          among={instruments.filter(isThermometer)}
          chosenId={thermometerId}
          choose={(id) => change({ thermometerId: id })}
        />
      )}
      <Pick label="Barometer" among={instruments.filter(isBarometer)} chosenId={barometerId} choose={(id) => change({ barometerId: id })} />
    </fieldset>
  );
}

function Pick({
  label,
  among,
  chosenId,
  choose,
}: {
  readonly label: string;
  readonly among: readonly AnyInstrument[];
  readonly chosenId: string;
  readonly choose: (id: string) => void;
}) {
  const chosen = among.find(({ id }) => id === chosenId);
  const overdue = chosen?.calibration.needed === true && chosen.calibration.due < dateText(now() + offsetMinutes() * 60_000);
  return (
    <div>
      <span id={`${label}-label`}>{label}</span>
      <Choice
        className="mt-0.5"
        labelledBy={`${label}-label`}
        value={chosen?.id ?? ''}
        change={choose}
        disabled={among.length === 0}
        options={[
          { value: '', label: among.length === 0 ? 'The firm has none' : 'None named' },
          ...among.map(({ id, name, readability, unit, simulated }) => ({
            value: id,
            label: `${name}, steps of ${readability} ${unitLabel(unit)}${simulated ? ' (simulated)' : ''}`,
          })),
        ]}
      />
      {overdue && (
        <span className="block text-sm font-medium text-caution">Out of calibration: it corrects nothing in favour of a pass.</span>
      )}
      {chosen !== undefined && !overdue && <span className="block text-sm text-quiet">Named, it must be read at both ends.</span>}
    </div>
  );
}
