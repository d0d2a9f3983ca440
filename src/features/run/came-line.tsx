import { instrumentOf } from '@/core/course';
import { heldSoFar, type RunEvent } from '@/core/judging';
import { unitLabel } from '@/core/quantities';
import { bandWords, lastCame, rateSoFar } from '@/core/running';
import type { OpenRun } from '@/device/use-run';
import { type Now, phaseReadings } from './run-model';

/** The last figure of the open hold, as it was read, and when; where none was yet, nothing. */
const lastRead = (events: readonly RunEvent[], withdrawn: readonly string[], phase: string, round: number) =>
  phaseReadings(events, withdrawn, phase, round).findLast(
    ({ role, quantity }) => role !== 'zero' && quantity !== 'temperature' && quantity !== 'barometer',
  );

/**
 * What the last phase came to, and the figures that belong together: what is to be raised to, or the start with what the gauge
 * showed last.
 */
export function CameLine({
  open: { run, events, judgement },
  present: { phase, state, ask },
  live,
  time,
}: {
  readonly open: OpenRun;
  readonly present: Now;
  /** What a simulated gauge shows now. */
  readonly live?: string;
  /** Now, ms. */
  readonly time: number;
}) {
  const { plan } = run;
  const came = lastCame(plan, judgement, events);
  const held = heldSoFar(state);
  const band = phase?.kind === 'hold' && ask?.role === 'start' ? bandWords(plan, judgement, phase) : undefined;
  const unit = phase?.kind === 'hold' ? unitLabel(instrumentOf(plan, phase.instrument).unit) : '';
  const read = phase === undefined ? undefined : lastRead(events, judgement.withdrawn, phase.id, state?.round ?? 1);
  const last = live ?? read?.value;
  const at = live === undefined ? read?.observedAt : time;
  const rate =
    phase?.kind === 'hold' && held !== undefined && last !== undefined && at !== undefined
      ? rateSoFar(plan, phase, held.start, last, (at - held.startAt) / 1000)
      : undefined;
  return (
    <>
      {came !== undefined && (
        <p className="text-sm text-quiet" data-testid="came">
          {came}.
        </p>
      )}
      {band !== undefined && (
        <p className="mt-1 leading-tight" data-testid="band">
          <span className="text-sm text-quiet">{band.say} </span>
          <b className="figures whitespace-nowrap text-2xl @5xl:text-4xl">{band.figures}</b> <span className="text-sm">{unit}</span>
        </p>
      )}
      {held !== undefined && phase?.kind === 'hold' && (
        <p className="figures mt-1 text-lg leading-tight @5xl:text-2xl" data-testid="start-and-now">
          <span className="text-sm text-quiet">start </span>
          {held.start}
          {last !== undefined && last !== held.start && (
            <>
              <span className="text-sm text-quiet"> now </span>
              <b>{last}</b>
            </>
          )}{' '}
          <span className="text-sm text-quiet">{unit}</span>
          {rate !== undefined && <span className="ml-3 text-sm text-quiet">{rate}</span>}
        </p>
      )}
    </>
  );
}
