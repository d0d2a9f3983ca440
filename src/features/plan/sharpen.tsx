'use client';

import { useDeferredValue, useMemo, useState } from 'react';
import type { Part } from '@/core/course';
import { type Change, holdFor, type Plan, type PlanInput, waysToSharpen } from '@/core/planning';
import { parseQuantity, toNumber, toSi, unitLabel } from '@/core/quantities';
import type { AnyInstrument } from '@/core/sizing';
import { DetectionCurve } from '@/features/sight/detection-curve';
import { usePart } from '@/features/sight/part-choice';
import { Button } from '@/ui/button';
import { input as inputClass } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';

/** What would sharpen the test, each with the figure that it reaches and a press to take it; and the hold that a leak of concern asks for. */
export function Sharpen({
  input,
  plan,
  van,
  take,
}: {
  readonly input: PlanInput;
  readonly plan: Plan;
  readonly van: readonly AnyInstrument[];
  readonly take: (change: Change) => void;
}) {
  // Every way is a plan of its own: they may lag behind the sheet.
  const later = useDeferredValue(useMemo(() => ({ input, plan }), [input, plan]));
  const { part, choice } = usePart(plan);
  const what = part?.what;
  const ways = useMemo(
    () =>
      waysToSharpen(
        later.input,
        later.plan,
        van,
        later.plan.sight.find((one) => one.what === what),
      ),
    [later, van, what],
  );
  if (part === undefined) return null;
  return (
    <div className="space-y-2">
      {choice}
      {ways.length > 0 && (
        <>
          <h3 className="text-sm text-quiet">What would sharpen it</h3>
          <ul className="space-y-1.5">
            {ways.map(({ id, label, sure, unit, change, wanting }) => (
              <li key={id} className="flex flex-wrap items-center justify-between gap-2">
                <span className="min-w-0 flex-1">
                  {label}
                  {wanting === true && <span className="block text-sm text-quiet">The firm has none: add one under Instruments.</span>}
                </span>
                <span className="figures whitespace-nowrap">
                  {sure} {unitLabel(unit)}
                </span>
                <Button
                  aria-label={`Take it: ${label}`}
                  tone="quiet"
                  className="!min-h-10"
                  disabled={wanting === true}
                  onClick={() => take(change)}
                >
                  Take it
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      <Concern input={input} plan={plan} part={part} take={take} />
      <Disclosure look="py-1 text-sm underline" title="How likely a leak passes, by its size">
        <div className="mt-2">
          <DetectionCurve plan={plan} part={part} others={ways.map(({ label, plan: other }) => ({ label, plan: other }))} />
        </div>
      </Disclosure>
    </div>
  );
}

const minutes = (seconds: number): string => (seconds % 3600 === 0 ? `${seconds / 3600} h` : `${Number((seconds / 60).toFixed(1))} min`);

/** How long the test must hold to be sure of a leak that somebody worries about. */
function Concern({
  input,
  plan,
  part,
  take,
}: {
  readonly input: PlanInput;
  readonly plan: Plan;
  readonly part: Part;
  readonly take: (change: Change) => void;
}) {
  const [text, setText] = useState('');
  const typed = text.trim() === '' ? undefined : parseQuantity(text, 'flow', part.unit);
  const leak = typed?.ok === true ? toSi(toNumber(typed.value.value), typed.value.unit) : undefined;
  const found = useMemo(
    () => (leak === undefined || !(leak > 0) ? undefined : holdFor(input, plan, part, leak)),
    [input, plan, part, leak],
  );
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm">
      <label htmlFor="sheet-concern">To be sure of a leak of</label>
      <input
        id="sheet-concern"
        inputMode="decimal"
        autoComplete="off"
        className={`${inputClass} figures !w-24`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <span>{unitLabel(part.unit)}</span>
      <output htmlFor="sheet-concern" className="font-medium" data-testid="concern">
        {text.trim() === ''
          ? ''
          : found === undefined
            ? 'type a figure above zero'
            : !found.ok
              ? found.message
              : found.enough
                ? `${minutes(found.seconds)} are enough`
                : `hold ${minutes(found.seconds)}`}
      </output>
      {found?.ok === true && !found.enough && (
        <Button tone="quiet" className="!min-h-10" onClick={() => take(found.change)}>
          Hold so long
        </Button>
      )}
    </div>
  );
}
