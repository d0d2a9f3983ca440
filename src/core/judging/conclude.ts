import { instrumentOf, unitOfHold } from '../course/instruments';
import { type HoldPhase, type TestVerdict, thresholdOf, type When } from '../course/phases';
import { type Data, type Finding, timeText } from '../limits';
import type { Plan } from '../planning/plan';
import { concluded, isConclusion } from '../procedures/conclusions';
import { unitLabel } from '../quantities';
import { dateText } from './events';
import type { Closed } from './open';
import { decides } from './rooms';
import { find } from './sayings';

export interface Concluded {
  readonly verdict: Exclude<TestVerdict, 'in progress'>;
  readonly reason?: Finding;
}

export const isPass = (verdict: TestVerdict): boolean => verdict === 'pass' || verdict === 'pass with permitted drop';

export type SoFar = 'pass' | 'restricted' | 'other';
/** What decides which closing list is due: a supply is put back after a pass, and with limits after a restricted one. */
export const saysSoFar = (verdict: TestVerdict): SoFar => (isPass(verdict) ? 'pass' : verdict === 'restricted' ? 'restricted' : 'other');

/** The first conclusion of the plan that holds; its sentence takes the figures of the phase it speaks of. */
export function conclude(plan: Plan, holdsTrue: (when: When) => boolean, results: ReadonlyMap<string, Closed>): Concluded {
  const match = plan.conclusions.find(({ when }) => holdsTrue(when));
  // A pressure that does not come up fails every test, whatever else its plan says (DOMAIN 4.14).
  if (match === undefined && [...results.values()].some(({ came }) => came.of === 'not-reached'))
    return { verdict: 'fail', reason: concluded('pressure-not-reached', {}) };
  if (match === undefined || !isConclusion(match.reason)) return { verdict: 'inconclusive', reason: find('no-proof', {}) };
  const named = match.about === undefined ? undefined : results.get(match.about);
  const last = plan.phases.findLast((phase) => {
    const result = results.get(phase.id);
    return result !== undefined && decides(phase) && (result.came.of === 'points' || result.facts !== undefined);
  });
  const spoken = named ?? (last === undefined ? undefined : results.get(last.id));
  if (spoken === undefined) return { verdict: match.verdict, reason: concluded(match.reason, {}) };
  const by: Data =
    match.repairDays === undefined
      ? {}
      : { days: String(match.repairDays), by: dateText((endOf(spoken) ?? 0) + match.repairDays * 86_400_000) };
  return { verdict: match.verdict, reason: concluded(match.reason, { ...spokenOf(plan, spoken), ...by }, spoken.phase) };
}

const endOf = ({ came }: Closed): number | undefined => ('endAt' in came ? came.endAt : undefined);

/** The figures that a conclusion may speak of. */
function spokenOf(plan: Plan, { phase: id, data, came }: Closed): Data {
  const phase = plan.phases.find((one): one is HoldPhase => one.id === id && one.kind === 'hold');
  if (phase === undefined || came.of !== 'hold') return data;
  return {
    how: '',
    threshold: thresholdOf(phase.limit) ?? '',
    ...data,
    start: came.start,
    end: came.end ?? '',
    unit: unitLabel(instrumentOf(plan, phase.instrument).unit),
    time: timeText(phase.seconds),
    limitUnit: unitLabel(unitOfHold(plan, phase)),
  };
}

/** Overrides beat all; an untrusted gauge beats what it said; a pass falls to any doubt (DOMAIN 4.2, 4.7, 4.12). */
export function settle(concluded: Concluded | undefined, found: readonly Finding[], openInside: boolean): Concluded {
  const has = (weight: Finding['weight']) => found.some((one) => one.weight === weight);
  if (has('override')) return { verdict: 'fail' };
  if (has('invalid'))
    return { verdict: 'invalid', reason: concluded !== undefined && !isPass(concluded.verdict) ? concluded.reason : undefined };
  if (concluded === undefined) return { verdict: 'inconclusive' };
  if (saysSoFar(concluded.verdict) !== 'other' && has('inconclusive')) return { verdict: 'inconclusive' };
  if (concluded.reason?.code === 'no-proof' && has('inconclusive')) return { verdict: 'inconclusive' };
  // Where what is unproved lies inside what is measured, a fall or a flow may be its own (DOMAIN 4.13); so may a fall whose time is not proved.
  const unsureFail = openInside || found.some(({ code }) => code === 'clock-unproved');
  return concluded.verdict === 'fail' && unsureFail ? { ...concluded, verdict: 'inconclusive' } : concluded;
}
