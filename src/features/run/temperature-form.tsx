import { useState } from 'react';
import { readPipeTemperature } from '@/core/judging/criteria/warming';
import { type TemperatureUnit, toText } from '@/core/quantities';
import { button, input } from '@/ui/classes';
import type { Inner } from './extra-dialog';

/** The pipe's temperature at the start or the end of a hold that judges. */
export function Temperature({ open, close, phase, holding }: Inner) {
  const { run, judgement, events } = open;
  const judging = (id: string) => {
    const spec = run.plan.phases.find((one) => one.id === id);
    return spec?.kind === 'hold' && spec.criterion.kind !== 'wait';
  };
  const state =
    holding && judging(phase)
      ? judgement.phases.find(({ id }) => id === phase)
      : judgement.phases.findLast(({ id, endAt }) => endAt !== undefined && judging(id));
  const taken = (role: 'start' | 'end') =>
    events.findLast(
      (event) =>
        event.type === 'reading' &&
        event.quantity === 'temperature' &&
        event.phase === state?.id &&
        event.round === state.round &&
        event.role === role,
    );
  const [role, setRole] = useState<'start' | 'end'>(taken('start') === undefined ? 'start' : 'end');
  const [text, setText] = useState('');
  const [unit, setUnit] = useState<'C' | 'F'>('C');
  const [fault, setFault] = useState<string>();
  const title = run.plan.phases.find(({ id }) => id === state?.id)?.title;
  if (state === undefined)
    return <p>No hold has its start reading yet. The pipe’s temperature is taken at the start and at the end of a hold.</p>;
  const keep = async () => {
    const typed = readPipeTemperature(text, unit);
    if (!typed.ok) return setFault(typed.problem.message);
    await open.write({
      type: 'reading',
      phase: state.id,
      round: state.round,
      role,
      quantity: 'temperature',
      value: toText(typed.value.value),
      unit: typed.value.unit as TemperatureUnit,
      typed: text,
      source: 'keypad',
    });
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
        <legend className="font-medium">{title}</legend>
        {(['start', 'end'] as const).map((one) => (
          <label key={one} className="flex min-h-11 cursor-pointer items-center gap-2">
            <input type="radio" name="role" className="size-5 accent-(--action)" checked={role === one} onChange={() => setRole(one)} />
            {one === 'start' ? 'At its start' : 'At its end'}
          </label>
        ))}
      </fieldset>
      <div className="flex gap-2">
        <input
          aria-label="Pipe temperature"
          inputMode="decimal"
          autoComplete="off"
          className={`${input} figures min-h-14 text-2xl`}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setFault(undefined);
          }}
        />
        <select aria-label="Unit" className={`${input} !w-24`} value={unit} onChange={(event) => setUnit(event.target.value as 'C' | 'F')}>
          <option value="C">°C</option>
          <option value="F">°F</option>
        </select>
      </div>
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <button type="submit" className={`${button} min-h-14 w-full`} disabled={text.trim() === ''}>
        Keep it
      </button>
      <p className="text-sm text-quiet">
        Read at both ends, it shows what warming alone would do to the gauge. In a hold under ten minutes the raw movement still decides.
      </p>
    </form>
  );
}
