import type { SystemKind } from '../procedures/procedure';

/** A part of a system that a valve, plug or joint can isolate; sections form a tree from the supply outwards. */
export interface Section {
  readonly id: string;
  readonly parent?: string;
  readonly name: string;
  /** Joints that could leak; a handful where nobody has counted. */
  readonly joints?: number;
  /** Years in use. */
  readonly age?: number;
  /** Behind walls or under ground, where nobody can look. */
  readonly hidden?: boolean;
  /** Minutes to shut it off from what lies before it, and to make it ready for a hold. */
  readonly minutes?: number;
}

/** What a system of a kind begins with, and what its pipes are called. */
const beginnings: Readonly<Record<SystemKind, readonly [root: string, body: string]>> = {
  gas: ['Supply valve', 'Pipework'],
  propane: ['Cylinder or tank valve', 'Pipework'],
  water: ['Supply valve', 'Pipework'],
  heating: ['Filling valve', 'Flow and return'],
  drain: ['Test ball', 'Drain run'],
  'water main': ['Section valve', 'Main'],
  refrigerant: ['Service valves', 'Pipework'],
  pool: ['Equipment end', 'Line'],
  duct: ['Fan connection', 'Trunk'],
  component: ['Connection', 'Body'],
};

/** A first schematic from what is known: where it begins, its pipes, and a branch for each thing that hangs on it. */
export function firstSections(kind: SystemKind, components: readonly string[]): readonly Section[] {
  const [root, body] = beginnings[kind];
  return [
    { id: 'valve', name: root, joints: 1 },
    { id: 'pipework', parent: 'valve', name: body, joints: 8 },
    ...components.map((name, index): Section => ({ id: `branch-${index + 1}`, parent: 'pipework', name, joints: 3 })),
  ];
}
