'use client';

import type { RunEvent } from '@/core/judging/events';
import type { Plan } from '@/core/planning/plan';
import { middleOf, type Phase } from '@/core/procedures/phases';
import { unitLabel } from '@/core/quantities';
import { scenarioFor, scenariosFor } from '@/core/simulation/plants';
import { input, quietButton } from '@/ui/classes';
import { Simulated } from '@/ui/notice';
import { useNow } from './use-now';
import { useSimulatedGauge } from './use-simulated-gauge';

/** The simulated gauge: live digits at 10 Hz and the hands of the technician. Labelled simulated everywhere. */
export function SimulatedPanel({
  plan,
  events,
  run,
  phase,
  begun,
  mayMove,
  act,
}: {
  readonly plan: Plan;
  readonly events: readonly RunEvent[];
  readonly run: string;
  readonly phase: Phase | undefined;
  /** The open hold has its start reading. */
  readonly begun: boolean;
  readonly mayMove: boolean;
  readonly act: (action: 'scenario' | 'zero' | 'raise', value: string) => void;
}) {
  const gauge = useSimulatedGauge(plan, events, run);
  const time = useNow(100);
  if (gauge === undefined) return null;
  const scenario = events.findLast((event) => event.type === 'plant' && event.action === 'scenario');
  const chosen = scenario?.type === 'plant' ? scenario.value : 'sound';
  const readingTaken = events.some(({ type }) => type === 'reading');
  const middle = phase?.kind === 'hold' ? middleOf(phase) : undefined;
  return (
    <section aria-label="Simulated gauge" className="border-2 border-dashed border-line p-3">
      <div className="flex items-center justify-between gap-3">
        <Simulated />
        <p className="figures text-3xl font-semibold" data-testid="simulated-reading">
          {gauge.shownAt(time)} <span className="text-base text-quiet">{unitLabel(plan.gauge.unit)}</span>
        </p>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        {readingTaken ? (
          <p className="text-sm text-quiet">Plant: {scenarioFor(plan, chosen)?.label}</p>
        ) : (
          <label className="min-w-0 flex-1 text-sm text-quiet">
            Plant
            <select
              className={`${input} mt-0.5`}
              value={chosen}
              disabled={!mayMove}
              onChange={(event) => act('scenario', event.target.value)}
            >
              {scenariosFor(plan).map(({ id, label }) => (
                <option key={id} value={id}>
                  {label}
                </option>
              ))}
            </select>
          </label>
        )}
        {phase?.kind === 'zero' && (
          <button type="button" className={`${quietButton} min-h-12`} disabled={!mayMove} onClick={() => act('zero', '0')}>
            Zero it <kbd className="text-xs text-quiet max-lg:hidden">Z</kbd>
          </button>
        )}
        {middle !== undefined && !begun && (
          <button type="button" className={`${quietButton} min-h-12`} disabled={!mayMove} onClick={() => act('raise', middle)}>
            Raise to {middle} <kbd className="text-xs text-quiet max-lg:hidden">U</kbd>
          </button>
        )}
      </div>
    </section>
  );
}
