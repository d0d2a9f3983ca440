'use client';

import { memo, useCallback, useState } from 'react';
import { type Calculation, type Found, figureIn, firstUnit, type Outcome, unitsFor, type Worked } from '@/core/bench';
import type { Problem } from '@/core/quantities';
import { Chart } from '@/ui/chart';
import { Dropdown } from '@/ui/choice';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';

/** The main figure in one line, for a phone. */
export function mainLine({ found }: Outcome): string {
  const one = found.find(({ main }) => main === true) ?? found[0];
  const unit = firstUnit(one);
  const label = unitsFor(one).find((other) => other.unit === unit)?.label ?? '';
  return `${one.label} ${figureIn(one, unit)} ${label}`;
}

/** What a calculation comes to: the figure, what must be said beside it, its picture, its sum and where it holds. */
export function Answer({ calculation, worked }: { readonly calculation: Calculation; readonly worked: Worked }) {
  // Kept by place: a result keeps the unit it was switched to while figures change.
  const [units, setUnits] = useState<Readonly<Record<number, string>>>({});
  const switchTo = useCallback((place: number, unit: string) => setUnits((last) => ({ ...last, [place]: unit })), []);
  if (!worked.ok) return <Refused calculation={calculation} problems={worked.problems} />;
  const { found, said, working, chart } = worked.value;
  const row = (one: Found, index: number) => (
    <Row key={places[index]} found={one} place={index} unit={units[index] ?? firstUnit(one)} switchTo={switchTo} />
  );
  return (
    <div className="space-y-4">
      <dl className="slab grid gap-y-1 p-4">{found.map(row)}</dl>
      {said.map(({ tone, text }) => (
        <Notice key={text} tone={tone}>
          {text}
        </Notice>
      ))}
      {chart !== undefined && <Chart chart={chart} caption={calculation.title} />}
      <Disclosure className="border-t border-line pt-2" look="font-medium" open title="The sum">
        <ul className="figures mt-1 space-y-1 text-sm leading-relaxed">
          {working.map((text) => (
            <li key={text} className="[overflow-wrap:anywhere]">
              {text}
            </li>
          ))}
        </ul>
      </Disclosure>
      <div className="border-t border-line pt-2 text-sm text-quiet">
        <p className="font-medium text-ink">Where it holds</p>
        <ul>
          {calculation.validity.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
        <p className="mt-1">Local code, the maker’s instructions and licensed practice come first.</p>
      </div>
    </div>
  );
}

/** What is wrong stands beside its field; what belongs to none of them is said here. */
function Refused({ calculation, problems }: { readonly calculation: Calculation; readonly problems: readonly Problem[] }) {
  const beside = problems.filter(({ field }) => calculation.parameters.some(({ id }) => id === field));
  return (
    <div className="space-y-2">
      {problems
        .filter((problem) => !beside.includes(problem))
        .map(({ code, message }) => (
          <Notice key={code + message} tone="stop">
            {message}
          </Notice>
        ))}
      {beside.length > 0 && (
        <Notice tone="stop">
          {beside.length === 1
            ? 'One figure needs another look; it is marked.'
            : `${beside.length} figures need another look; they are marked.`}
        </Notice>
      )}
      <p className="text-quiet">What you typed is kept. Change it, and the answer is there at once.</p>
    </div>
  );
}

/** Results keep their place from key to key, whatever they are called. */
const places = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

type SwitchTo = (place: number, unit: string) => void;

function Row({
  found,
  place,
  unit,
  switchTo,
}: {
  readonly found: Found;
  readonly place: number;
  readonly unit: string;
  readonly switchTo: SwitchTo;
}) {
  const { label, main, note, quantity } = found;
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4">
      <dt className={main === true ? 'text-lg' : 'text-quiet'}>
        {label}
        {note !== undefined && <span className="block text-sm text-quiet">{note}</span>}
      </dt>
      <dd className="ml-auto flex items-baseline gap-2">
        <span className={`figures ${main === true ? 'text-4xl font-semibold' : 'text-lg'}`}>{figureIn(found, unit)}</span>
        <UnitOf label={label} quantity={quantity} main={main === true} place={place} unit={unit} switchTo={switchTo} />
      </dd>
    </div>
  );
}

/** A result's unit, to switch; drawn again only when it is switched, not at every key. */
const UnitOf = memo(function UnitOf({
  label,
  quantity,
  main,
  place,
  unit,
  switchTo,
}: {
  readonly label: string;
  readonly quantity: Found['quantity'];
  readonly main: boolean;
  readonly place: number;
  readonly unit: string;
  readonly switchTo: SwitchTo;
}) {
  const offered = unitsFor({ quantity });
  if (offered.length < 2) return <span className="w-28 px-3 text-quiet">{offered[0]?.label}</span>;
  return (
    <Dropdown
      label={`Unit of ${label.toLowerCase()}`}
      className={`!w-28 self-center ${main ? '' : '!min-h-9 border-transparent bg-transparent py-1 text-quiet hover:border-line'}`}
      value={unit}
      change={(next) => switchTo(place, next)}
      options={offered.map((one) => ({ value: one.unit, label: one.label }))}
    />
  );
});
