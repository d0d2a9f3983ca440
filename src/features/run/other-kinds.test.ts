import { isSpoilt, judge } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import type { Plan } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { unitKind } from '@/core/quantities';
import { bandAdvice } from '@/core/running';
import { eventsFor, examplePlan } from '@/core/simulation/examples.fixture';
import { plantMoves } from './plant-moves';
import { isPumpedBack, mayNotCome, pendingStamp, phaseReadings, plausible, presentOf } from './run-model';

/* The run screen's questions, for every kind of test. */

const later = 9_999_999_999_999;
const phaseOf = ({ phases }: Plan, id: string) => phases.find((phase) => phase.id === id);

test.each(procedures.map(({ id }) => [id] as const))(
  '%s: whatever its run has come to, one thing at most is asked, on an instrument that can show it',
  (id) => {
    const plan = examplePlan(id);
    const events = eventsFor(plan, 'sound');
    for (let count = 0; count <= events.length; count += 1) {
      const seen = events.slice(0, count);
      const { ask, phase, state } = presentOf(plan, judge(plan, seen), seen, later);
      if (phase?.kind === 'hold' || phase?.kind === 'zero')
        expect(ask !== undefined || isSpoilt(state) || (state?.state === 'current' && state.is === 'ended')).toBe(true);
      if (phase?.kind === 'check' || phase?.kind === 'observe' || phase === undefined) expect(ask).toBeUndefined();
      if (ask === undefined) continue;
      const kinds = { pressure: 'pressure', flow: 'flow', volume: 'volume', level: 'length', turns: 'turns' } as const;
      expect(unitKind(ask.instrument.unit)).toBe(kinds[ask.quantity as keyof typeof kinds]);
      expect(Number(plausible(plan, ask))).toBeGreaterThan(0);
      // What is offered for a simulated plant can be written down as an act.
      for (const { value, label } of plantMoves(plan, phase ?? plan.phases[0], state, seen, ask))
        expect(`${value}${label}`).not.toMatch(/NaN|undefined/);
    }
  },
);

describe('points of a measuring phase', () => {
  const plan = examplePlan('duct-tightness');
  const ready = () => new LogBuilder(plan).at(0).tick('prepare').figure('zero', 'zero', 'pressure', '0.0', 'Pa');
  const ask = (log: LogBuilder, withdrawn: readonly string[] = []) => {
    const judgement = { ...judge(plan, log.events), withdrawn };
    return presentOf(plan, judgement, log.events, later).ask;
  };

  test('figure by figure, point by point, and none when all are read', () => {
    const log = ready();
    expect(ask(log)).toMatchObject({ point: { id: 'p1' }, quantity: 'pressure' });
    log.figure('points', 'point', 'pressure', '25.0', 'Pa', { point: 'p1' });
    expect(ask(log)).toMatchObject({ point: { id: 'p1' }, quantity: 'flow', of: 'flow' });
    log.figure('points', 'point', 'flow', '4', 'CFM', { point: 'p1', qualifier: 'below range' });
    expect(ask(log)).toMatchObject({ point: { id: 'p2' }, quantity: 'pressure' });
  });

  test('what cannot have been read is asked again, and so is what was withdrawn', () => {
    const log = ready().figure('points', 'point', 'pressure', '25.05', 'Pa', { point: 'p1' });
    expect(ask(log)).toMatchObject({ point: { id: 'p1' }, quantity: 'pressure' });
    log.figure('points', 'point', 'pressure', '25.0', 'Pa', { point: 'p1' });
    expect(ask(log)?.quantity).toBe('flow');
    expect(ask(log, [log.lastId])?.quantity).toBe('pressure');
  });

  test('a stamp serves its own point: where that asks for one figure, the next point is stamped anew', () => {
    const main = examplePlan('water-main-make-up');
    const log = new LogBuilder(main).write({ type: 'stamp', phase: 'make-up', round: 1, role: 'point' });
    const pending = () => pendingStamp(log.events, phaseOf(main, 'make-up'), 1, 'device-1')?.id;
    expect(pending()).toBe(log.lastId);
    const back = { type: 'reading', phase: 'make-up', round: 1, role: 'point', quantity: 'pressure', value: '203', unit: 'psi' } as const;
    log.write({ ...back, typed: '203', source: 'keypad', stamp: log.lastId, point: 'back' });
    expect(pending()).toBeUndefined();
  });

  test('a stamp stays until both figures of its point are typed', () => {
    const log = ready().write({ type: 'stamp', phase: 'points', round: 1, role: 'point' });
    const stamp = log.lastId;
    const pending = () => pendingStamp(log.events, phaseOf(plan, 'points'), 1, 'device-1')?.id;
    expect(pending()).toBe(stamp);
    const figure = (quantity: 'pressure' | 'flow', value: string, unit: 'Pa' | 'CFM') =>
      log.write({
        type: 'reading',
        phase: 'points',
        round: 1,
        role: 'point',
        quantity,
        value,
        unit,
        typed: value,
        source: 'keypad',
        stamp,
        point: 'p1',
      });
    figure('pressure', '25.0', 'Pa');
    expect(pending()).toBe(stamp);
    figure('flow', '10.0', 'CFM');
    expect(pending()).toBeUndefined();
    expect(phaseReadings(log.events, [], 'points', 1)).toHaveLength(2);
  });
});

test('a supply that stays open is not told to raise or bleed', () => {
  const plan = examplePlan('meter-turn-on-inches');
  const lockUp = plan.phases.find(({ id }) => id === 'lock-up');
  if (lockUp?.kind !== 'hold') throw new Error('no lock-up');
  expect(bandAdvice(plan, lockUp, '29.00', false)).toMatch(/Look at the supply and its regulator/);
});

test('only a main’s hold is pumped back; only what is raised may not come up', () => {
  const pumped = procedures.filter(({ id }) => examplePlan(id).phases.some(isPumpedBack)).map(({ id }) => id);
  expect(pumped).toEqual(['water-main-make-up']);
  expect(mayNotCome(undefined, undefined)).toBe(false);
  const { gauge, phases } = examplePlan('heating-hydraulic');
  const stage = phases.find(({ id }) => id === 'stage-1');
  expect(mayNotCome({ role: 'start', quantity: 'pressure', instrument: gauge }, stage)).toBe(true);
  expect(mayNotCome({ role: 'end', quantity: 'pressure', instrument: gauge }, stage)).toBe(false);
  const letBy = examplePlan('water-isolation-hold').phases.find(({ id }) => id === 'let-by');
  expect(mayNotCome({ role: 'start', quantity: 'pressure', instrument: gauge }, letBy)).toBe(false);
});
