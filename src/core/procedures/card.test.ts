import type { Phase } from '../course/phases';
import { roomOfHold, roomOfMeasure } from '../limits';
import { planTest } from '../planning/plan';
import { exampleFor } from '../simulation/examples.fixture';
import { procedures } from '.';

/* What a card names is what its courses hold: the compiler sees the one, this the other. */

/** A procedure's plans under every one of its choices, one at a time and in pairs. */
function plansOf(id: string) {
  const procedure = procedures.find((one) => one.id === id);
  const choices = (procedure?.parameters ?? []).flatMap((one) =>
    one.kind === 'choice' ? one.options.map(({ value }) => ({ [one.id]: value })) : [],
  );
  const changes = [{}, ...choices, ...choices.flatMap((one) => choices.map((other) => ({ ...one, ...other })))];
  return changes.flatMap((answers) => {
    const planned = planTest(exampleFor(id, { answers }));
    return planned.ok ? [planned.value.plan] : [];
  });
}

const kindOf = (phase: Phase): string => (phase.kind === 'hold' || phase.kind === 'measure' ? phase.limit.kind : phase.kind);
const outcomesOf = (phase: Phase): readonly string[] => {
  switch (phase.kind) {
    case 'hold':
      return roomOfHold(phase.limit).outcomes(phase.limit);
    case 'measure':
      return roomOfMeasure(phase.limit).outcomes(phase.limit);
    case 'observe':
      return phase.options.map(({ id }) => id);
    default:
      return [];
  }
};

test.each(procedures.map(({ id, phases }) => [id, phases] as const))('%s', (id, names) => {
  const met = new Set<string>();
  for (const plan of plansOf(id))
    for (const phase of plan.phases) {
      met.add(phase.id);
      const named = names[phase.id];
      if (typeof named === 'string') expect(`${phase.id} ${kindOf(phase)}`).toBe(`${phase.id} ${named}`);
      else if (!named.includes(kindOf(phase))) for (const outcome of outcomesOf(phase)) expect(named).toContain(outcome);
    }
  // None is named that no plan has, in the order in which plans have them.
  expect(Object.keys(names).filter((name) => !met.has(name))).toEqual([]);
});
