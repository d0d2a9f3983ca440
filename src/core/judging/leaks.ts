import type { Phase } from '../course/phases';
import type { Plan } from '../planning/plan';
import type { EventOf } from './events';
import type { Closed } from './open';
import type { Kept, Rounds } from './rounds';

/** A leak met while raising, before its hold began, is remade and no fail (DOMAIN 4.27). */
export function metWhileRaising(plan: Plan, rounds: Rounds, { observedAt, round }: EventOf<'leak-seen'>, phase: Phase): boolean {
  if (phase.kind === 'hold') {
    const result = rounds.closedRound(phase.id, round);
    if (result?.came.of === 'hold') return observedAt < result.came.startAt;
    const open = rounds.openOf(phase, round);
    if (open?.is === 'running' || open?.is === 'ended') return observedAt < open.start.event.observedAt;
    return result === undefined;
  }
  if (phase.kind === 'measure' || (phase.kind === 'check' && phase.closing)) return false;
  // Beside a list or a look: something is still to be raised after it, and nothing has fallen before it.
  const after = plan.phases.slice(rounds.placeOf(phase.id) + 1);
  const fell = rounds.all.some(({ effect, came }) => effect === 'fails' && came.of === 'hold');
  return (
    !fell &&
    after.some((one) => (one.kind === 'hold' || one.kind === 'measure') && rounds.standing(one.id) === undefined && mayComeYet(rounds, one))
  );
}

/** Whether a phase may still come when all goes well: it is not skipped already. */
const mayComeYet = (rounds: Rounds, { when }: Phase): boolean =>
  when.length === 0 ||
  when.some((all) =>
    all.every(
      (one) =>
        'phase' in one &&
        ('begunBefore' in one ||
          rounds.standing(one.phase) === undefined ||
          one.outcome.includes(rounds.standing(one.phase)?.outcome ?? '')),
    ),
  );

/** The last hold that fell, whose fall is in question. */
export const lastFallen = (rounds: Rounds): Kept | undefined =>
  rounds.all.findLast(({ came, effect }) => came.of === 'hold' && effect === 'fails');

/** The fall that bubbles on the rig put in question: seen after its end, and before the rig was soaped dry (DOMAIN 4.8). */
export function fallOfTheRig(plan: Plan, rounds: Rounds, observedAt: number, phase: Phase): Kept | undefined {
  const soapedDry = plan.phases.some((one) => one.kind === 'observe' && one.rig === true && rounds.standing(one.id)?.outcome === 'dry');
  const own = rounds.resultOf(phase.id);
  const fallen = own?.came.of === 'hold' ? own : lastFallen(rounds);
  return fallen !== undefined && (!soapedDry || within(fallen, observedAt)) ? fallen : undefined;
}

/** Whether a moment lies inside what a phase held or read. */
export function within({ came }: Closed, observedAt: number): boolean {
  if (came.of === 'hold') return observedAt >= came.startAt && observedAt <= (came.endAt ?? came.dueAt);
  return came.of === 'points' && observedAt >= came.startAt && observedAt <= came.endAt;
}
