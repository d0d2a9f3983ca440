import type { Procedure, SupplyNeed } from '../procedures/procedure';

/** A test that runs on a site, by what it is called there and the phase that is open. */
export interface UnderWay {
  readonly name: string;
  readonly procedure: Pick<Procedure, 'tasks'>;
  readonly phase: string;
}

/** How the open phase of a test needs a supply; nothing where it needs none. */
export const supplyNeeded = ({ procedure, phase }: Pick<UnderWay, 'procedure' | 'phase'>): SupplyNeed | undefined =>
  procedure.tasks.find(({ phases }) => phases?.includes(phase) === true)?.supply;

/**
 * What to say where two tests on a site need one supply in two states: the shut one is not to be disturbed. Nothing where
 * they do not.
 */
export function supplyClash(first: UnderWay, second: UnderWay): string | undefined {
  const [one, other] = [supplyNeeded(first), supplyNeeded(second)];
  if (one === undefined || other === undefined || one.of !== other.of || one.state === other.state) return undefined;
  const [shut, open] = one.state === 'off' ? [first, second] : [second, first];
  return `${shut.name} runs with the ${one.of} shut; ${open.name} now needs it on. Wait until the first is over: turned on, it would void that hold.`;
}
