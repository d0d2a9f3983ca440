'use client';

import { type HoldPhase, type Phase, shortestCorrectedS } from '@/core/course';
import { conditionWindowMs, heldSoFar } from '@/core/judging';
import { mustRead } from '@/core/limits';
import { now } from '@/device/clock';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { isPumpedBack, type Now, phaseReadings } from './run-model';

type End = 'start' | 'end';

/** What a hold wants beside its gauge, at one of its ends, and has not got yet; what it can do without is named as such. */
function missingAt(open: OpenRun, { id, seconds, corrects }: HoldPhase, round: number, end: End): readonly string[] {
  if (corrects === undefined) return [];
  const must = mustRead(corrects);
  const counts = { temperature: seconds >= shortestCorrectedS && corrects.needed !== 'barometer', barometer: true };
  const read = phaseReadings(open.events, open.judgement.withdrawn, id, round).filter(({ role }) => role === end);
  return (['temperature', 'barometer'] as const).flatMap((what) => {
    if (read.some(({ quantity }) => quantity === what) || !(counts[what] || must.includes(what))) return [];
    const words = what === 'temperature' ? 'pipe temperature' : 'barometer';
    return [must.includes(what) ? words : `${words} (if there is one)`];
  });
}

/** Temperature and barometer of a hold on gas: asked for at both ends; what a plan names or a long hold needs is said to be needed. */
export function Conditions({
  open,
  phase,
  present,
  setDialog,
}: {
  readonly open: OpenRun;
  readonly phase: Phase;
  readonly present: Now;
  readonly setDialog: (dialog: string) => void;
}) {
  const { plan } = open.run;
  // A hold that was read to its end still wants its end's figures.
  const ended = present.state?.state === 'current' && present.state.is === 'ended' ? present.state : undefined;
  const state = present.holding || ended !== undefined ? present.state : undefined;
  const hold = plan.phases.find((one): one is HoldPhase => one.kind === 'hold' && one.id === state?.id);
  // What is read of the start later than its time changes nothing: it is asked for no more.
  const startAt = heldSoFar(state)?.startAt;
  const startCounts = hold !== undefined && startAt !== undefined && now() - startAt <= conditionWindowMs(hold.seconds);
  const ends: readonly End[] = [
    ...(startCounts ? (['start'] as const) : []),
    ...(present.holding && present.ask?.role !== 'end' ? [] : (['end'] as const)),
  ];
  const rows = ends.flatMap((end) => {
    const missing = hold === undefined || state === undefined ? [] : missingAt(open, hold, state.round, end);
    return missing.length === 0 ? [] : [{ end, missing }];
  });
  const pumps = present.holding && isPumpedBack(phase);
  return (
    <>
      {rows.map(({ end, missing }) => (
        <Button
          key={end}
          tone="quiet"
          size="tall"
          className="justify-start text-left"
          disabled={!open.hasPen}
          onClick={() => setDialog(`temperature-${end}`)}
        >
          {`${hold?.title}, ${end}, not read yet: ${missing.join(', ')}`}
          <kbd className="text-xs text-quiet @max-5xl:hidden">T</kbd>
        </Button>
      ))}
      {ended !== undefined && ended.owes.length > 0 && (
        <Button
          tone="quiet"
          size="tall"
          className="justify-start text-left"
          disabled={!open.hasPen}
          onClick={async () => {
            for (const what of ended.owes) await open.write({ type: 'declined', phase: ended.id, round: ended.round, what });
          }}
        >
          {`Not read at the end: go on without the ${ended.owes.join(' and the ')}`}
          <kbd className="text-xs text-quiet @max-5xl:hidden">O</kbd>
        </Button>
      )}
      {pumps && (
        <Button tone="quiet" size="tall" disabled={!open.hasPen} onClick={() => setDialog('pump-back')}>
          Pump back… <kbd className="text-xs text-quiet @max-5xl:hidden">B</kbd>
        </Button>
      )}
    </>
  );
}
