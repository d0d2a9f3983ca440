'use client';

import { useState } from 'react';
import { type Calculation, type Found, figureIn, firstUnit, type Outcome, unitsFor, type Worked } from '@/core/bench';
import { Chart } from '@/ui/chart';
import { input } from '@/ui/classes';
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
  const [units, setUnits] = useState<Readonly<Record<string, string>>>({});
  if (!worked.ok)
    return (
      <div className="space-y-2" role="alert">
        {worked.problems.map(({ code, message }) => (
          <Notice key={code + message} tone="stop">
            {message}
          </Notice>
        ))}
        <p className="text-quiet">What you typed is kept. Change it, and the answer is there at once.</p>
      </div>
    );
  const { found, said, working, chart } = worked.value;
  const row = (one: Found, index: number) => (
    <Row
      key={`${one.label}-${index}`}
      found={one}
      unit={units[index] ?? firstUnit(one)}
      switchTo={(unit) => setUnits({ ...units, [index]: unit })}
    />
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
      <details open className="border-t border-line pt-2">
        <summary className="font-medium">The sum</summary>
        <ul className="figures mt-1 space-y-1 text-sm leading-relaxed">
          {working.map((text) => (
            <li key={text} className="[overflow-wrap:anywhere]">
              {text}
            </li>
          ))}
        </ul>
      </details>
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

function Row({ found, unit, switchTo }: { readonly found: Found; readonly unit: string; readonly switchTo: (unit: string) => void }) {
  const offered = unitsFor(found);
  const { label, main, note } = found;
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4">
      <dt className={main === true ? 'text-lg' : 'text-quiet'}>
        {label}
        {note !== undefined && <span className="block text-sm text-quiet">{note}</span>}
      </dt>
      <dd className="ml-auto flex items-baseline gap-2">
        <span className={`figures ${main === true ? 'text-4xl font-semibold' : 'text-lg'}`}>{figureIn(found, unit)}</span>
        {offered.length > 1 ? (
          <select
            aria-label={`Unit of ${label.toLowerCase()}`}
            className={`${input} w-24 self-center`}
            value={unit}
            onChange={(event) => switchTo(event.target.value)}
          >
            {offered.map((one) => (
              <option key={one.unit} value={one.unit}>
                {one.label}
              </option>
            ))}
          </select>
        ) : (
          <span className="w-24 text-quiet">{offered[0]?.label}</span>
        )}
      </dd>
    </div>
  );
}
