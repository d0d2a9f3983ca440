import type { Phase } from '../course/phases';
import { roomOfHold, roomOfMeasure } from '../limits';
import type { Plan } from '../planning/plan';
import { planTest } from '../planning/plan';
import { exampleFor } from '../simulation/examples.fixture';
import { procedures } from '.';

/* What a card names against what its courses hold. */

/** A procedure's plans under every one of its choices, one at a time; in pairs too where they are asked for. */
export function plansOf(id: string, inPairs: boolean): readonly Plan[] {
  const procedure = procedures.find((one) => one.id === id);
  const choices = (procedure?.parameters ?? []).flatMap((one) =>
    one.kind === 'choice' ? one.options.map(({ value }) => ({ [one.id]: value })) : [],
  );
  const pairs = inPairs ? choices.flatMap((one) => choices.map((other) => ({ ...one, ...other }))) : [];
  return [{}, ...choices, ...pairs].flatMap((answers) => {
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

/** Every phase of every plan is one that the card names, with its kind and its outcomes. Answers which names no plan has. */
export function namesMet(plans: readonly Plan[], names: Readonly<Record<string, string | readonly string[]>>): readonly string[] {
  const met = new Set<string>();
  for (const phase of plans.flatMap(({ phases }) => phases)) {
    met.add(phase.id);
    const named = names[phase.id];
    if (typeof named === 'string') expect(`${phase.id} ${kindOf(phase)}`).toBe(`${phase.id} ${named}`);
    else if (!named.includes(kindOf(phase))) for (const outcome of outcomesOf(phase)) expect(named).toContain(outcome);
  }
  return Object.keys(names).filter((name) => !met.has(name));
}
