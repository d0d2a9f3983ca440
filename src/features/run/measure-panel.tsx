'use client';

import type { MeasurePhase } from '@/core/course';
import type { RunEvent } from '@/core/judging';
import { unitLabel } from '@/core/quantities';
import { type Ask, phaseReadings } from './run-model';

/** Points and what was read at each; the figure that is due next is marked. */
export function MeasurePanel({
  phase,
  round,
  events,
  withdrawn,
  ask,
}: {
  readonly phase: MeasurePhase;
  readonly round: number;
  readonly events: readonly RunEvent[];
  readonly withdrawn: readonly string[];
  readonly ask?: Ask;
}) {
  const read = phaseReadings(events, withdrawn, phase.id, round);
  const figure = (point: string, quantity: string) =>
    read.find((event) => event.quantity === quantity && (event.point ?? phase.points[0].id) === point);
  return (
    <table className="w-full text-left">
      <caption className="sr-only">{phase.title}: points and figures</caption>
      <thead className="text-sm text-quiet">
        <tr>
          <th scope="col" className="py-1 pr-3 font-normal">
            {phase.points.length === 1 ? '' : 'Point'}
          </th>
          {phase.fields.map(({ label }) => (
            <th key={label} scope="col" className="py-1 pr-3 font-normal">
              {label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="divide-y divide-line border-y border-line">
        {phase.points.map(({ id, label }) => (
          <tr key={id} className={ask?.point?.id === id ? 'border-l-4 border-l-action bg-surface' : ''}>
            <th scope="row" className={`py-2 pl-2 pr-3 ${ask?.point?.id === id ? 'font-semibold' : 'font-normal'}`}>
              {label}
            </th>
            {phase.fields.map(({ quantity, label: field }) => {
              const event = figure(id, quantity);
              const due = ask?.point?.id === id && ask.quantity === quantity;
              return (
                <td key={field} className="figures py-2 pr-3">
                  {event === undefined
                    ? due
                      ? 'read now'
                      : '–'
                    : event.qualifier === 'below range'
                      ? `below ${event.value} ${unitLabel(event.unit)}`
                      : `${event.value} ${unitLabel(event.unit)}`}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
