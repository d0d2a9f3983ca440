'use client';

import { useEffect, useRef, useState } from 'react';
import { readingFault } from '@/core/judging/readings';
import type { Gauge } from '@/core/planning/gauge';
import { readKeypad, toText, unitLabel } from '@/core/quantities';
import { showAt } from '@/core/quantities/display';
import { button, quietButton } from '@/ui/classes';

/**
 * The keypad for a stamped reading. It opens on the gauge's unit and shows how the digits are read; nothing is
 * prefilled. What is typed survives a reload under `keep`.
 */
export function Keypad({
  gauge,
  plausible,
  keep,
  label,
  onSave,
  onCancel,
  advise,
}: {
  readonly gauge: Gauge;
  /** Largest figure that can be meant literally, in the gauge's unit. */
  readonly plausible: string;
  readonly keep: string;
  readonly label: string;
  readonly onSave: (value: string, typed: string) => void;
  readonly onCancel: () => void;
  /** What the figure would mean, such as the way back into the band. */
  readonly advise?: (value: string) => string | undefined;
}) {
  const key = `vast-stone-typed-${keep}`;
  const [text, setText] = useState(() => sessionStorage.getItem(key) ?? '');
  const field = useRef<HTMLInputElement>(null);
  const saved = useRef(false);
  useEffect(() => sessionStorage.setItem(key, text), [key, text]);
  useEffect(() => field.current?.focus(), []);
  const value = text === '' ? undefined : readKeypad(text, gauge.readability, plausible);
  // Trailing digits as the gauge shows them, unless more were typed than it can show: then the fault says so.
  const shown =
    value === undefined
      ? undefined
      : value.scale <= (gauge.readability.split('.')[1]?.length ?? 0)
        ? showAt(value, gauge.readability)
        : toText(value);
  const fault =
    text === '' ? undefined : shown === undefined ? 'Type digits and a point, like 20.5.' : readingFault(gauge, shown, gauge.unit);
  const advice = shown === undefined || fault !== undefined ? undefined : advise?.(shown);
  const press = (digit: string) => {
    setText((last) =>
      digit === '⌫' ? last.slice(0, -1) : digit === '±' ? (last.startsWith('-') ? last.slice(1) : `-${last}`) : last + digit,
    );
    field.current?.focus();
  };
  const save = () => {
    // A second press before the keypad is gone must not write a second reading.
    if (shown === undefined || fault !== undefined || saved.current) return;
    saved.current = true;
    sessionStorage.removeItem(key);
    onSave(shown, text);
  };
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <label className="block">
        <span className="font-medium">{label}</span>
        <span className="mt-1 flex items-baseline gap-3 border-2 border-action bg-surface px-3 py-1.5">
          <input
            ref={field}
            inputMode="none"
            autoComplete="off"
            aria-label={`${label}, ${unitLabel(gauge.unit)}`}
            className="figures w-full min-w-0 bg-transparent text-3xl font-semibold outline-none"
            value={text}
            onChange={(event) => setText(event.target.value.replace(/[^\d.,-]/g, ''))}
          />
          <output className="figures whitespace-nowrap text-lg text-quiet" data-testid="read-as">
            {shown !== undefined && shown !== text ? `= ${shown} ` : ''}
            {unitLabel(gauge.unit)}
          </output>
        </span>
      </label>
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {text} does not count: {fault}.
        </p>
      )}
      {advice !== undefined && (
        <p role="alert" className="font-semibold text-caution">
          {advice}
        </p>
      )}
      <div className="grid grid-cols-4 gap-1.5" aria-hidden>
        {['7', '8', '9', '⌫', '4', '5', '6', '±', '1', '2', '3', '.', '0'].map((digit) => (
          <button
            key={digit}
            type="button"
            tabIndex={-1}
            className={`${quietButton} figures min-h-12 text-xl ${digit === '0' ? 'col-span-2' : ''}`}
            onClick={() => press(digit)}
          >
            {digit}
          </button>
        ))}
        <button
          type="button"
          tabIndex={-1}
          className={`${button} col-span-2 min-h-12`}
          disabled={shown === undefined || fault !== undefined}
          onClick={save}
        >
          Save
        </button>
      </div>
      <div className="flex gap-2">
        <button type="submit" className="sr-only">
          Save the reading
        </button>
        <button type="button" className="min-h-12 px-1 text-sm underline" onClick={onCancel}>
          Discard this stamp
        </button>
      </div>
    </form>
  );
}
