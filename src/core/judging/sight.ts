import { instrumentOf } from '../course/instruments';
import type { PartGiven } from '../course/phases';
import { type AsHeld, sightOf } from '../course/sight';
import type { SeenPart } from '../course/sight-words';
import type { Drift } from '../limits';
import type { Plan } from '../planning/plan';
import { toSi } from '../quantities';
import { airAtPressure } from '../sizing/water-hold';
import type { Judgement } from './judge';
import type { Came, PhaseJudgement } from './state';

type Held = Extract<Came, { of: 'hold' }>;
type Done = Extract<PhaseJudgement, { state: 'done' }>;

/**
 * What the test could see, part by part, as it was held: the time that it took, the pressure that it began at, the watch that proved
 * its valve, the weather and the air as they were read (DOMAIN 3.3). A part that was not held to an answer stands as planned, and is not
 * told; of an attempt that came to none no part is.
 */
export function sightAsHeld(plan: Plan, judgement: Judgement): readonly SeenPart[] {
  const done = (id: string) => judgement.phases.find((phase) => phase.id === id && phase.state === 'done') as Done | undefined;
  const came = (id: string): Came | undefined => done(id)?.came;
  const answered = judgement.verdict !== 'inconclusive' && judgement.verdict !== 'invalid';
  return plan.sight.map((planned) => {
    // The last that was held is what clears it.
    const by = [planned.phase, ...(planned.orBy ?? [])].findLast((id) => came(id)?.of === 'hold') ?? planned.phase;
    const part = { ...planned, phase: by };
    const effect = done(by)?.effect;
    const told = answered && (effect === 'proves' || effect === 'fails');
    const found = sightOf(plan, part, asHeld(plan, part, came));
    if (found === undefined) return { ...planned, told };
    const { sight: _, ...seen } = found;
    return { ...seen, told };
  });
}

function asHeld(plan: Plan, part: PartGiven, came: (phase: string) => Came | undefined): AsHeld {
  const phase = plan.phases.find(({ id }) => id === part.phase);
  const held = came(part.phase);
  if (phase?.kind === 'measure' && phase.limit.kind === 'make-up-at-most') {
    const before = came(phase.limit.hold);
    return before?.of === 'hold' ? { start: startOf(plan, phase.limit.hold, before) } : {};
  }
  if (held?.of !== 'hold' || held.endAt === undefined || phase?.kind !== 'hold') return {};
  const start = startOf(plan, part.phase, held);
  const watch = [...(part.letBys ?? phase.valve ?? [])].reverse().flatMap((id) => {
    const one = came(id);
    return one?.of === 'hold' && one.endAt !== undefined
      ? [{ phase: id, seconds: (one.endAt - one.startAt) / 1000, at: startOf(plan, id, one) }]
      : [];
  })[0];
  const supply = part.supply === undefined ? undefined : pressureOf(plan, part.supply.phase, came(part.supply.phase));
  const air = part.airBy === undefined ? undefined : came(part.airBy);
  return {
    seconds: (held.endAt - held.startAt) / 1000,
    start,
    warms: driftOf(held.drifts?.warms),
    presses: driftOf(held.drifts?.presses),
    letBy: watch,
    supply,
    // By volume at atmospheric pressure as it was measured, at the pressure of the hold.
    airPercent: air?.of === 'points' && air.data.air !== undefined ? airAtPressure(Number(air.data.air) / 100, start) : undefined,
  };
}

const driftOf = (kept: { readonly amount: string; readonly read: boolean } | undefined): Drift | undefined =>
  kept === undefined ? undefined : { amount: Number(kept.amount), read: kept.read };

const startOf = (plan: Plan, id: string, { data, start }: Held): number => {
  const phase = plan.phases.find((one) => one.id === id);
  return toSi(Number(data.start ?? start), instrumentOf(plan, phase?.kind === 'hold' ? phase.instrument : undefined).unit);
};

/** The first pressure that a measuring phase read, Pa. */
function pressureOf(plan: Plan, id: string, came: Came | undefined): number | undefined {
  const phase = plan.phases.find((one) => one.id === id);
  if (came?.of !== 'points' || phase?.kind !== 'measure') return undefined;
  const value = came.points.map(({ values }) => values.pressure).find((one) => one !== undefined);
  const field = phase.fields.find(({ quantity }) => quantity === 'pressure');
  return value === undefined ? undefined : toSi(Number(value), instrumentOf(plan, field?.instrument).unit);
}
