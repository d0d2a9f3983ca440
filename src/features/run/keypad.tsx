'use client';

import { useEffect, useRef, useState } from 'react';
import { typedFigure } from '@/core/judging';
import { unitLabel } from '@/core/quantities';
import type { Instrument } from '@/core/sizing';
import { Button } from '@/ui/button';
import { quietButton } from '@/ui/classes';

/** So soon after the question no press can be its answer, ms. */
const seenAfterMs = 400;

/**
 * The keypad for a stamped reading. It opens on the instrument's unit and shows how the digits are read; nothing is
 * prefilled. What is typed survives a reload under `keep`.
 */
export function Keypad({
  instrument,
  plausible,
  keep,
  label,
  onSave,
  onCancel,
  onNothing,
  advise,
  confirm,
}: {
  readonly instrument: Instrument;
  /** Largest figure that can be meant literally, in the instrument's unit. */
  readonly plausible: string;
  readonly keep: string;
  readonly label: string;
  readonly onSave: (value: string, typed: string) => void;
  readonly onCancel: () => void;
  /** The instrument shows nothing: only where its range begins above zero. */
  readonly onNothing?: () => void;
  /** What the figure would mean, such as the way back into the band. */
  readonly advise?: (value: string) => string | undefined;
  /** What the figure would close, with its movement: it is saved only once that was seen (DOMAIN 4.16). */
  readonly confirm?: (value: string) => string | undefined;
}) {
  const key = `vast-stone-typed-${keep}`;
  const [text, setText] = useState(() => sessionStorage.getItem(key) ?? '');
  const field = useRef<HTMLInputElement>(null);
  const saved = useRef(false);
  useEffect(() => sessionStorage.setItem(key, text), [key, text]);
  useEffect(() => {
    field.current?.focus();
  }, []);
  const { shown, fault } = text === '' ? {} : typedFigure(text, instrument, plausible);
  const advice = shown === undefined || fault !== undefined ? undefined : advise?.(shown);
  const closes = shown === undefined || fault !== undefined ? undefined : confirm?.(shown);
  const [asked, setAsked] = useState<string>();
  const asks = closes !== undefined && asked === text;
  const shownAt = useRef(Number.POSITIVE_INFINITY);
  useEffect(() => {
    if (!asks) return;
    // Seen is what was painted: a busy device may take the next press before that.
    const frame = requestAnimationFrame(() => {
      shownAt.current = performance.now();
    });
    return () => {
      cancelAnimationFrame(frame);
      shownAt.current = Number.POSITIVE_INFINITY;
    };
  }, [asks]);
  const press = (digit: string) => {
    setText((last) =>
      digit === '⌫' ? last.slice(0, -1) : digit === '±' ? (last.startsWith('-') ? last.slice(1) : `-${last}`) : last + digit,
    );
    field.current?.focus();
  };
  const save = () => {
    // A second press before the keypad is gone must not write a second reading.
    if (shown === undefined || fault !== undefined || saved.current) return;
    if (closes !== undefined && !asks) {
      setAsked(text);
      return;
    }
    // A glove presses twice at once: nobody has read anything in that time.
    if (closes !== undefined && performance.now() - shownAt.current < seenAfterMs) return;
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
            aria-label={`${label}, ${unitLabel(instrument.unit)}`}
            className="figures w-full min-w-0 bg-transparent text-3xl font-semibold outline-none"
            value={text}
            onChange={(event) => setText(event.target.value.replace(/[^\d.,-]/g, ''))}
          />
          <output className="figures whitespace-nowrap text-lg text-quiet" data-testid="read-as">
            {shown !== undefined && shown !== text ? `= ${shown} ` : ''}
            {unitLabel(instrument.unit)}
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
      {asks && (
        <p role="alert" data-testid="confirm" className="border-l-4 border-action bg-surface px-3 py-2 font-semibold">
          {closes} Press Save again, or change the figure.
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
        <Button tabIndex={-1} size="tall" className="col-span-2" disabled={shown === undefined || fault !== undefined} onClick={save}>
          {asks ? 'Save: it stands' : 'Save'}
        </Button>
      </div>
      <div className="flex flex-wrap gap-x-4">
        <button type="submit" className="sr-only">
          Save the reading
        </button>
        <Button tone="bare" size="tall" className="px-1 text-sm" onClick={onCancel}>
          Discard this stamp
        </Button>
        {onNothing !== undefined && (
          <Button tone="bare" size="tall" className="px-1 text-sm" onClick={onNothing}>
            It shows nothing: below {instrument.rangeLow} {unitLabel(instrument.unit)}
          </Button>
        )}
      </div>
    </form>
  );
}
