'use client';

import { useState } from 'react';
import type { ReadQuantity } from '@/core/course';
import type { ReadingRole } from '@/core/judging';
import { unitLabel } from '@/core/quantities';
import { clockTime } from '@/device/use-now';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { phaseReadings } from './run-model';
import { WithdrawForm } from './withdraw-form';

const words = { start: 'Start', zero: 'Zero', between: 'Reading', end: 'End' } as const;

/** So many are listed; of more, the first few and the latest. */
const most = 30;
const first = 3;

const nameOf = (role: ReadingRole, quantity: ReadQuantity): string => {
  if (quantity === 'temperature' || quantity === 'barometer') return `${quantity === 'barometer' ? 'Barometer' : 'Pipe'}, ${role}`;
  return role === 'point' ? `${quantity.charAt(0).toUpperCase()}${quantity.slice(1)}` : words[role];
};

/** The readings of the open phase. One that was mistyped may be withdrawn with a reason, while nothing is closed by it; both stay in the log. */
export function TakenReadings({
  open,
  phase,
  round,
  closed,
}: {
  readonly open: OpenRun;
  readonly phase: string;
  readonly round: number;
  readonly closed: boolean;
}) {
  const [asking, setAsking] = useState<string>();
  const [all, setAll] = useState(false);
  const readings = phaseReadings(open.events, open.judgement.withdrawn, phase, round);
  if (readings.length === 0) return null;
  // Hundreds are read off the trace; how it began and the latest are enough here.
  const isLong = !all && readings.length > most;
  const shown = isLong ? [...readings.slice(0, first), ...readings.slice(first - most)] : readings;
  return (
    <ul aria-label="Readings of this phase" className="border-t border-line text-sm">
      {shown.map(({ id, role, quantity, qualifier, value, unit, observedAt }, index) => (
        <li key={id} className="py-0.5">
          {isLong && index === first && (
            <Button tone="bare" size="tall" className="px-1" onClick={() => setAll(true)}>
              {readings.length - most} more between
            </Button>
          )}
          <div className="flex items-center justify-between gap-3">
            <span>
              {nameOf(role, quantity)}{' '}
              <b className="figures">
                {qualifier === undefined ? '' : 'below '}
                {value} {unitLabel(unit)}
              </b>{' '}
              <span className="text-quiet">{clockTime(observedAt)}</span>
            </span>
            {asking !== id && !closed && (
              <Button tone="bare" size="tall" className="px-1" disabled={!open.hasPen} onClick={() => setAsking(id)}>
                Withdraw…
              </Button>
            )}
          </div>
          {asking === id && !closed && <WithdrawForm id={id} write={open.write} close={() => setAsking(undefined)} />}
        </li>
      ))}
    </ul>
  );
}
