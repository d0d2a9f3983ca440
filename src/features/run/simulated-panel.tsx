'use client';

import { instrumentsOf } from '@/core/course';
import type { RunEvent } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { isPressureUnit, unitLabel } from '@/core/quantities';
import { scenarioFor, scenariosFor } from '@/core/simulation';
import { useNow } from '@/device/use-now';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { Simulated } from '@/ui/notice';
import type { Ask } from './run-model';
import type { Hands } from './use-hands';
import { useSimulatedGauge } from './use-simulated-gauge';

/** The simulated instrument: live digits at 10 Hz and the hands of the technician. Labelled simulated everywhere. */
export function SimulatedPanel({
  plan,
  events,
  run,
  ask,
  mayMove,
  hands,
}: {
  readonly plan: Plan;
  readonly events: readonly RunEvent[];
  readonly run: string;
  readonly ask: Ask | undefined;
  readonly mayMove: boolean;
  readonly hands: Hands;
}) {
  const gauge = useSimulatedGauge(plan, events, run);
  const time = useNow(100);
  if (gauge === undefined) return null;
  const scenario = events.findLast((event) => event.type === 'plant' && event.action === 'scenario');
  const chosen = scenario?.type === 'plant' ? scenario.value : 'sound';
  const readingTaken = events.some(({ type }) => type === 'reading');
  const instrument = ask?.instrument ?? plan.gauge;
  const shown =
    ask?.point === undefined
      ? instrument.id === 'none'
        ? undefined
        : gauge.shownAt(time, ask?.of)
      : (gauge.measuredAt(time, ask.point, ask.quantity) ?? 'nothing');
  const others = instrumentsOf(plan).filter(
    ({ role, instrument: one }) => one.simulated && role !== ask?.of && one.id !== 'none' && isPressureUnit(one.unit),
  );
  return (
    <section aria-label="Simulated gauge" className="border-2 border-dashed border-line p-3">
      <div className="flex items-center justify-between gap-3">
        <Simulated />
        {shown !== undefined && (
          <p className="figures text-3xl font-semibold" data-testid="simulated-reading">
            {shown} <span className="text-base text-quiet">{unitLabel(instrument.unit)}</span>
          </p>
        )}
      </div>
      {ask?.point === undefined && others.length > 0 && instrument.id !== 'none' && (
        <p className="figures mt-1 text-sm text-quiet">
          {others.map(({ role, instrument: one }) => `${one.name.replace(/^Simulated /, '')}: ${gauge.shownAt(time, role)}`).join(' · ')}
        </p>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-2">
        {readingTaken ? (
          <p className="text-sm text-quiet">Plant: {scenarioFor(plan, chosen)?.label}</p>
        ) : (
          <div className="min-w-0 flex-1 text-sm text-quiet">
            <span id="plant-label">Plant</span>
            <Choice
              className="mt-0.5 text-base"
              labelledBy="plant-label"
              value={chosen}
              disabled={!mayMove}
              change={(id) => hands.actPlant('scenario', id)}
              options={scenariosFor(plan).map(({ id, label }) => ({ value: id, label }))}
            />
          </div>
        )}
        {hands.moves.map(({ action, value, label, key }) => (
          <Button key={label} tone="quiet" size="tall" disabled={!mayMove} onClick={() => hands.actPlant(action, value)}>
            {label} <kbd className="text-xs text-quiet @max-5xl:hidden">{key}</kbd>
          </Button>
        ))}
      </div>
    </section>
  );
}
