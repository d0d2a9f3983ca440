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

/** What a system of a kind begins with: where the supply comes in, what its pipes are called, and their parts where nothing else is known. */
const beginnings: Readonly<Record<SystemKind, { readonly root: string; readonly body: string; readonly parts?: readonly string[] }>> = {
  gas: { root: 'Supply valve', body: 'Pipework' },
  propane: { root: 'Cylinder or tank valve', body: 'Pipework' },
  water: { root: 'Supply valve', body: 'Yard line', parts: ['Cold, house', 'Hot, house'] },
  heating: { root: 'Filling valve', body: 'Flow and return' },
  drain: { root: 'Test ball', body: 'Drain run' },
  'water main': { root: 'Section valve', body: 'Main' },
  refrigerant: { root: 'Service valves', body: 'Pipework', parts: ['Liquid line', 'Suction line'] },
  pool: { root: 'Equipment end', body: 'Line' },
  duct: { root: 'Fan connection', body: 'Trunk', parts: ['Supply branches', 'Return'] },
  component: { root: 'Connection', body: 'Body' },
};

/** A first schematic from what is known: where it begins, its pipes, and a branch for each part and each thing that hangs on it. */
export function firstSections(kind: SystemKind, components: readonly string[]): readonly Section[] {
  const { root, body, parts = [] } = beginnings[kind];
  const branches = [...parts, ...components].filter((name, index, all) => all.findIndex((one) => same(one, name)) === index);
  return [
    { id: 'valve', name: root, joints: 1 },
    { id: 'pipework', parent: 'valve', name: body, joints: 8 },
    ...branches
      .filter((name) => !same(name, root) && !same(name, body))
      .slice(0, mostSections - 2)
      .map((name, index): Section => ({ id: `branch-${index + 1}`, parent: 'pipework', name: name.slice(0, 80), joints: 3 })),
  ];
}

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Most sections that a search still lays out well. */
const mostSections = 40;
/** Whole numbers that a section may carry, with the words they are refused in. */
const counts = {
  joints: { high: 500, words: 'Count its joints as a whole number from 0 to 500, or leave it empty.' },
  age: { high: 200, words: 'Give its years in use as a whole number from 0 to 200, or leave it empty.' },
  minutes: { high: 600, words: 'Give the minutes to shut it off as a whole number from 0 to 600, or leave it empty.' },
} as const;

/** A section as somebody typed it; numbers stay text until all are right. */
export interface SectionRow {
  readonly id: string;
  readonly parent?: string;
  readonly name: string;
  readonly joints: string;
  readonly age: string;
  readonly minutes: string;
  readonly hidden: boolean;
}

export interface SectionFault {
  /** Id of the row; of the first where the fault is of all of them. */
  readonly row: string;
  readonly field: 'name' | 'parent' | keyof typeof counts;
  readonly message: string;
}

export const rowOf = ({ id, parent, name, joints, age, minutes, hidden = false }: Section): SectionRow => ({
  id,
  parent,
  name,
  joints: String(joints ?? ''),
  age: String(age ?? ''),
  minutes: String(minutes ?? ''),
  hidden,
});

/** Everything that is wrong with a system's sections as typed: one tree from the supply outwards, each section by a name of its own. */
export function sectionFaults(rows: readonly SectionRow[]): readonly SectionFault[] {
  const [first] = rows;
  if (first === undefined) return [{ row: '', field: 'name', message: 'Name at least the section that the supply comes in by.' }];
  const found: SectionFault[] = [];
  const fault = (row: string, field: SectionFault['field'], message: string) => found.push({ row, field, message });
  if (rows.length > mostSections) fault(first.id, 'name', `Keep to ${mostSections} sections; join some that are shut off together.`);
  const byId = new Map(rows.map((row) => [row.id, row]));
  for (const [index, row] of rows.entries()) {
    const name = row.name.trim();
    if (name === '') fault(row.id, 'name', 'Name the section, such as “Cooker branch”.');
    else if (name.length > 80) fault(row.id, 'name', 'Keep the name under 80 characters.');
    else if (rows.findIndex((one) => one.name.trim().toLowerCase() === name.toLowerCase()) < index)
      fault(row.id, 'name', `Another section is called ${name} too; name them apart.`);
    if (index === 0 ? row.parent !== undefined : !leadsTo(byId, row, first.id))
      fault(
        row.id,
        'parent',
        index === 0
          ? 'The first section is where the supply comes in; it hangs on none.'
          : `Choose what it hangs on, so that it leads back to ${first.name.trim() || 'the supply'}.`,
      );
    for (const field of ['joints', 'age', 'minutes'] as const) {
      const text = row[field].trim();
      if (text !== '' && !(/^\d+$/.test(text) && Number(text) <= counts[field].high)) fault(row.id, field, counts[field].words);
    }
  }
  return found;
}

/** Whether going from section to section before it comes to the root, and not round in a ring. */
function leadsTo(byId: ReadonlyMap<string, SectionRow>, from: SectionRow, root: string): boolean {
  let at: SectionRow | undefined = from;
  for (let steps = 0; at !== undefined && steps <= byId.size; steps += 1) {
    if (at.id === root) return true;
    at = at.parent === undefined ? undefined : byId.get(at.parent);
  }
  return false;
}

/** Sections from rows that have no fault. */
export const sectionsOf = (rows: readonly SectionRow[]): readonly Section[] =>
  rows.map(({ id, parent, name, hidden, ...typed }) => ({
    id,
    parent,
    name: name.trim(),
    ...Object.fromEntries(
      (['joints', 'age', 'minutes'] as const).flatMap((field) => (typed[field].trim() === '' ? [] : [[field, Number(typed[field])]])),
    ),
    hidden: hidden || undefined,
  }));

/** Takes a section away; what hung on it hangs on what it hung on. The first, where the supply comes in, stays. */
export const without = (rows: readonly SectionRow[], id: string): readonly SectionRow[] => {
  const gone = rows.find((row) => row.id === id);
  if (gone?.parent === undefined) return rows;
  const { parent } = gone;
  return rows.filter((row) => row.id !== id).map((row) => (row.parent === id ? { ...row, parent } : row));
};
