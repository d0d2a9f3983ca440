import { useState } from 'react';
import { pipeDegrees, type ReadQuantity } from '@/core/course';
import { conditionWindowMs, heldSoFar, readPipeTemperature, spanOf } from '@/core/judging';
import {
  atmosphereFromBarometer,
  type Problem,
  parseQuantity,
  type Result,
  toNumber,
  toSi,
  toText,
  type Unit,
  unitLabel,
} from '@/core/quantities';
import { now } from '@/device/clock';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { FigureInput } from '@/ui/figure-input';
import type { Inner } from './extra-dialog';

type Typed = Result<{ readonly value: Parameters<typeof toText>[0]; readonly unit: Unit }>;

/** A barometer as people write it; refuses what no barometer shows. */
function readBarometer(text: string, unit: 'hPa' | 'mbar'): Typed {
  const typed = parseQuantity(text, 'pressure', unit);
  if (!typed.ok) return typed;
  const air = atmosphereFromBarometer(toSi(toNumber(typed.value.value), typed.value.unit));
  return air.ok ? typed : air;
}

/** Pipe temperature and barometer at the start or the end of a hold that judges. */
export function Temperature({
  open,
  close,
  phase,
  at,
}: Inner & {
  /** The end that was asked for; else the start as long as it can still be read. */
  readonly at?: 'start' | 'end';
}) {
  const { run, judgement, events } = open;
  const judging = (id: string) => {
    const spec = run.plan.phases.find((one) => one.id === id);
    return spec?.kind === 'hold' && spec.limit.kind !== 'wait';
  };
  const own = judgement.phases.find(({ id }) => id === phase);
  const state =
    judging(phase) && heldSoFar(own) !== undefined
      ? own
      : judgement.phases.findLast((one) => spanOf(one).endAt !== undefined && judging(one.id));
  const spec = run.plan.phases.find((one) => one.id === state?.id);
  const corrects = spec?.kind === 'hold' ? spec.corrects : undefined;
  const taken = (role: 'start' | 'end') =>
    events.some(
      (event) =>
        event.type === 'reading' &&
        (event.quantity === 'temperature' || event.quantity === 'barometer') &&
        event.phase === state?.id &&
        event.round === state.round &&
        event.role === role,
    );
  const startAt = heldSoFar(state)?.startAt;
  const startIsPast = spec?.kind === 'hold' && startAt !== undefined && now() - startAt > conditionWindowMs(spec.seconds);
  const [role, setRole] = useState<'start' | 'end'>(at ?? (taken('start') || startIsPast ? 'end' : 'start'));
  const [degrees, setDegrees] = useState('');
  const [unit, setUnit] = useState<'C' | 'F'>(pipeDegrees(run.plan));
  const [barometer, setBarometer] = useState('');
  const [fault, setFault] = useState<Problem>();
  if (state === undefined)
    return <p>No hold has its start reading yet. The pipe’s temperature is taken at the start and at the end of a hold.</p>;
  const write = (quantity: ReadQuantity, typed: Typed, text: string) =>
    typed.ok &&
    open.write({
      type: 'reading',
      phase: state.id,
      round: state.round,
      role,
      quantity,
      value: toText(typed.value.value),
      unit: typed.value.unit,
      typed: text,
      source: 'keypad',
    });
  const typed = (change: (text: string) => void) => (text: string) => {
    change(text);
    setFault(undefined);
  };
  const keep = async () => {
    const pipe: Typed | undefined = degrees.trim() === '' ? undefined : readPipeTemperature(degrees, unit);
    const air = barometer.trim() === '' ? undefined : readBarometer(barometer, 'hPa');
    const wrong = [pipe, air].find((typed) => typed !== undefined && !typed.ok);
    if (wrong !== undefined && !wrong.ok) return setFault(wrong.problem);
    if (pipe !== undefined) await write('temperature', pipe, degrees);
    if (air !== undefined) await write('barometer', air, barometer);
    close();
  };
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <fieldset className="flex gap-5">
        <legend className="font-medium">{spec?.title}</legend>
        {(['start', 'end'] as const).map((one) => (
          <label key={one} className="flex min-h-11 cursor-pointer items-center gap-2">
            <input type="radio" name="role" className="size-5 accent-(--action)" checked={role === one} onChange={() => setRole(one)} />
            {one === 'start' ? 'At its start' : 'At its end'}
          </label>
        ))}
      </fieldset>
      {corrects?.needed !== 'barometer' && (
        <div className="flex gap-2">
          <FigureInput
            label="Pipe temperature"
            placeholder="Pipe"
            className="min-h-14 text-2xl"
            value={degrees}
            change={typed(setDegrees)}
          />
          <Choice<'C' | 'F'>
            label="Unit"
            value={unit}
            change={setUnit}
            options={[
              { value: 'C', label: '°C' },
              { value: 'F', label: '°F' },
            ]}
          />
        </div>
      )}
      {corrects !== undefined && (
        <label className="flex items-center gap-2">
          <FigureInput
            label="Barometer"
            placeholder="Barometer"
            className="min-h-14 text-2xl"
            value={barometer}
            change={typed(setBarometer)}
          />
          <span className="w-24 px-3 text-quiet">{unitLabel('hPa')}</span>
        </label>
      )}
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault.message}
        </p>
      )}
      <Button type="submit" size="great" className="w-full" disabled={degrees.trim() === '' && barometer.trim() === ''}>
        Keep it
      </Button>
      <p className="text-sm text-quiet">
        Read at both ends, they show what warming and weather alone would do to the gauge. In a hold under ten minutes the raw movement
        still decides.
      </p>
    </form>
  );
}
