import { procedures } from '../procedures';
import { type Unit, unitKind, unitsOf } from '../quantities';
import { present } from '../running';
import { exampleEvents, examplePlan } from '../simulation/examples.fixture';
import { sentenceOf } from './catalogue';
import type { EventOf, RunEvent } from './events';
import { judge } from './judge';

/*
 * Whatever a pass stands on is missed when it is not there (DOMAIN 4.13, 4.23): a sound test of every procedure is gone through
 * event by event. What may be absent is what the plan does not need.
 */

const optional = (event: RunEvent): boolean => {
  switch (event.type) {
    case 'check':
    case 'observation':
      return false;
    case 'reading':
      return event.quantity === 'temperature' || event.quantity === 'barometer' || event.role === 'between';
    default:
      // Traces, stamps, cautions, notes, what is done to the simulated plant; a guard's reading is for later.
      return true;
  }
};

const whatOf = (event: RunEvent): string =>
  [event.type, 'phase' in event && event.phase, 'item' in event && event.item, 'role' in event && event.role].filter(Boolean).join(' ');

const passing = procedures.flatMap(({ id }) => {
  const plan = examplePlan(id);
  const events = exampleEvents(plan, 'sound');
  const { verdict } = judge(plan, events);
  return verdict === 'pass' ? [{ id, plan, events }] : [];
});

test('every procedure that can pass is here', () =>
  expect(passing.map(({ id }) => id)).toEqual(
    procedures.flatMap(({ id }) => (examplePlan(id).conclusions.some(({ verdict }) => verdict === 'pass') ? [id] : [])),
  ));

describe.each(passing)('$id', ({ plan, events }) => {
  const survivors = (change: (event: RunEvent) => readonly RunEvent[] | undefined): readonly string[] =>
    events.flatMap((event, index) => {
      const instead = change(event);
      if (instead === undefined) return [];
      const { verdict } = judge(plan, [...events.slice(0, index), ...instead, ...events.slice(index + 1)]);
      return verdict === 'pass' ? [whatOf(event)] : [];
    });

  test('nothing that it needs may be left out', () => expect(survivors((event) => (optional(event) ? undefined : []))).toEqual([]));
  test('a step answered “not proved” is not done', () =>
    expect(survivors((event) => (event.type === 'check' ? [{ ...event, state: 'unproved' }] : undefined))).toEqual([]));
  test('what is written under another round is not of this one', () =>
    expect(survivors((event) => (!optional(event) && 'round' in event ? [{ ...event, round: event.round + 1 }] : undefined))).toEqual([]));
  test('what an instrument did not show is no figure', () =>
    expect(
      survivors((event) => (event.type === 'reading' && !optional(event) ? [{ ...event, qualifier: 'below range' }] : undefined)),
    ).toEqual([]));
  test('a figure in another unit, or in another part, is another figure', () => {
    const readings = (change: (event: EventOf<'reading'>) => Partial<EventOf<'reading'>> | undefined) =>
      survivors((event) => {
        const changed = event.type === 'reading' && !optional(event) ? change(event) : undefined;
        return changed === undefined ? undefined : [{ ...event, ...changed } as RunEvent];
      });
    // Turns of a dial have one unit.
    const another = ({ unit }: EventOf<'reading'>): Unit | undefined => unitsOf(unitKind(unit)).find((one) => one !== unit);
    expect(
      readings((event) => {
        const unit = another(event);
        return unit === undefined ? undefined : { unit };
      }),
    ).toEqual([]);
    expect(readings(({ role }) => ({ role: role === 'end' ? 'start' : 'end' }))).toEqual([]);
    expect(readings(({ role }) => (role === 'zero' ? undefined : { role: 'zero' }))).toEqual([]);
    const other = (id: string): string => plan.phases.find((one) => one.id !== id)?.id ?? id;
    expect(readings(({ phase }) => ({ phase: other(phase) }))).toEqual([]);
  });
  test('what was seen otherwise is no pass', () =>
    expect(
      survivors((event) => {
        if (event.type !== 'observation') return undefined;
        const phase = plan.phases.find(({ id }) => id === event.phase);
        const others = phase?.kind === 'observe' ? phase.options.filter(({ id }) => id !== event.option) : [];
        return others.slice(-1).map(({ id }) => ({ ...event, option: id }));
      }),
    ).toEqual([]));
});

test('a point’s figure that is written as a start is refused in words, and the point is asked for again', () => {
  const plan = examplePlan('water-isolation-hold');
  const events = exampleEvents(plan, 'sound');
  const at = events.findIndex((event) => event.type === 'reading' && event.role === 'point');
  const wrong = [...events.slice(0, at), { ...events[at], role: 'start' } as RunEvent];
  const judgement = judge(plan, wrong);
  expect(
    judgement.reasons
      .filter(({ code }) => code === 'reading-refused')
      .map(sentenceOf)
      .join(),
  ).toMatch(/not read as a point/);
  expect(present(plan, judgement, wrong, wrong[at].observedAt)).toMatchObject({ do: 'read', ask: { role: 'point', quantity: 'pressure' } });
});
