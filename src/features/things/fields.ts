import { type SystemKind, systemKinds, systemKindWords } from '@/core/procedures';
import { type UnitKind, unitLabel, unitsOf } from '@/core/quantities';
import { blank, equipmentKinds, type Said, shownKinds, type ThingKind } from '@/core/register';
import type { WordsField } from '@/ui/words-form';

/* What is asked of each thing of the register, in the order in which people say it. */

interface Needs {
  /** Its pipes decide what a test can see. */
  readonly pipes: boolean;
  /** What hangs on it, as the trade calls it. */
  readonly parts?: { readonly label: string; readonly help: string };
}

/** What a system of a kind is asked for when it is added; the rest comes when a test asks for it. */
export const systemNeeds: Readonly<Record<SystemKind, Needs>> = {
  gas: { pipes: true, parts: { label: 'Appliances', help: 'A line each: Boiler Vello 24, serial KB-2207.' } },
  propane: { pipes: true, parts: { label: 'Appliances', help: 'A line each: Hob Ostra 2, serial 1207.' } },
  water: { pipes: true },
  heating: { pipes: true, parts: { label: 'Manifolds, radiators, loops', help: 'A line each, with what it may see: Manifold 6 bar.' } },
  drain: { pipes: false, parts: { label: 'Branches', help: 'A line each: Kitchen branch.' } },
  'water main': {
    pipes: false,
    parts: { label: 'Hydrants, valves, fittings', help: 'A line each, with rating and height: Hydrant 250 psi -6 ft.' },
  },
  refrigerant: { pipes: true, parts: { label: 'Parts', help: 'A line each: Evaporator, Receiver.' } },
  pool: { pipes: false, parts: { label: 'Openings of the line', help: 'A line each: Return 1.' } },
  duct: { pipes: false },
  component: { pipes: false },
};

/** What an instrument may show, in words. */
const shown: Readonly<Record<(typeof shownKinds)[number], string>> = {
  pressure: 'pressure',
  flow: 'flow',
  volume: 'volume',
  length: 'level',
  turns: 'meter dial',
  temperature: 'pipe temperature',
};

const units = shownKinds.flatMap((kind) =>
  unitsOf(kind as UnitKind).map((value) => ({ value, label: `${unitLabel(value)} (${shown[kind]})` })),
);

export const siteFields = (said: Said<'site'> = blank.site): readonly WordsField[] => [
  { name: 'name', label: 'Name', initial: said.name },
  { name: 'address', label: 'Address', initial: said.address },
  { name: 'occupier', label: 'Occupier', help: 'Who uses the building; may stay empty.', initial: said.occupier },
  { name: 'access', label: 'Getting in', kind: 'area', help: 'Keys, hours, whom to ask; may stay empty.', initial: said.access },
];

const asksFor =
  (need: (needs: Needs) => boolean) =>
  ({ kind }: Record<string, unknown>) =>
    need(systemNeeds[kind as SystemKind] ?? systemNeeds.gas);

export const newSystemFields: readonly WordsField[] = [
  {
    name: 'kind',
    label: 'Kind',
    kind: 'choice',
    initial: '',
    options: systemKinds.map((value) => ({ value, label: systemKindWords[value] })),
  },
  { name: 'name', label: 'Name', help: 'As people on site call it: “Gas, flat 3”, “Returns, main pool”.' },
  ...Object.entries(systemNeeds).flatMap(([kind, { parts }]): readonly WordsField[] =>
    parts === undefined
      ? []
      : [
          {
            name: `parts-${kind}`,
            label: parts.label,
            help: `${parts.help} May stay empty.`,
            kind: 'area',
            when: (values) => values.kind === kind,
          },
        ],
  ),
  {
    name: 'pipes',
    label: 'Pipe schedule',
    kind: 'area',
    help: 'A line each: 22cu 6.5 · 1sch40 40ft · 20dn 3. May stay empty: a plan asks where it decides.',
    when: asksFor(({ pipes }) => pipes),
  },
];

export const systemFields = (said: Said<'system'>): readonly WordsField[] => [
  { name: 'name', label: 'Name', initial: said.name },
  { name: 'pipes', label: 'Pipe schedule', kind: 'area', help: 'A line each: 22cu 6.5 · 1sch40 40ft · 20dn 3.', initial: said.pipes },
  {
    name: 'statedVolume',
    label: 'Or the volume of the pipes',
    help: 'Where the lengths are not known, such as 12.5 L.',
    initial: said.statedVolume,
  },
];

export const componentFields = (said: Omit<Said<'component'>, 'systemId'>): readonly WordsField[] => [
  { name: 'kind', label: 'What it is', help: 'Boiler, hob, manifold.', initial: said.kind },
  { name: 'make', label: 'Make', initial: said.make },
  { name: 'model', label: 'Model', initial: said.model },
  { name: 'serial', label: 'Serial number', initial: said.serial },
  { name: 'rating', label: 'May see at most', help: 'With its unit: 6 bar.', initial: said.rating },
  { name: 'height', label: 'Height above the gauge', help: 'Where it matters: +3 m, -6 ft.', initial: said.height },
  { name: 'fitted', label: 'Fitted on', kind: 'date', initial: said.fitted },
  { name: 'removed', label: 'Removed on', kind: 'date', initial: said.removed },
];

export const instrumentFields = (said: Said<'instrument'> = blank.instrument): readonly WordsField[] => [
  { name: 'name', label: 'Name', help: 'As you call it on site: “Van 1 digital”.', initial: said.name },
  {
    name: 'kind',
    label: 'Kind',
    kind: 'choice',
    initial: said.kind,
    options: [
      { value: 'digital', label: 'Digital' },
      { value: 'liquid', label: 'Liquid column' },
      { value: 'needle', label: 'Needle' },
      { value: 'scale', label: 'Rule, vessel or dial' },
      { value: 'barometer', label: 'Barometer' },
    ],
  },
  { name: 'unit', label: 'Unit', kind: 'choice', initial: said.unit, options: units },
  {
    name: 'readability',
    label: 'Smallest movement that it shows',
    kind: 'figure',
    help: 'The last digit, or half the smallest division.',
    initial: said.readability,
  },
  { name: 'rangeLow', label: 'Range from', kind: 'figure', initial: said.rangeLow },
  { name: 'rangeHigh', label: 'Range to', kind: 'figure', initial: said.rangeHigh },
  { name: 'serial', label: 'Serial number', initial: said.serial },
  {
    name: 'calibrationNeeded',
    label: 'Needs calibration (a liquid column of known density, a rule or a vessel does not)',
    kind: 'check',
    initial: said.calibrationNeeded,
  },
];

export const equipmentFields = (said: Said<'equipment'> = blank.equipment): readonly WordsField[] => [
  { name: 'kind', label: 'Kind', kind: 'choice', initial: said.kind, options: equipmentKinds.map((value) => ({ value, label: value })) },
  { name: 'name', label: 'Name', help: 'As you call it on site: “4 in ball, van 2”.', initial: said.name },
  { name: 'size', label: 'Size', initial: said.size },
  { name: 'rating', label: 'Rated pressure', help: 'With its unit: 45 psi.', initial: said.rating },
  { name: 'serial', label: 'Serial number', initial: said.serial },
  { name: 'note', label: 'Note', kind: 'area', initial: said.note },
];

/** Figures typed with a decimal comma, and no blanks around anything. */
export function tidied<K extends ThingKind>(kind: K, values: Readonly<Record<string, unknown>>): Partial<Said<K>> {
  const figures = kind === 'instrument' ? ['readability', 'rangeLow', 'rangeHigh'] : [];
  return Object.fromEntries(
    Object.entries(values)
      .filter(([field]) => Object.hasOwn(blank[kind], field))
      .map(([field, value]) => [
        field,
        typeof value !== 'string' ? value : figures.includes(field) ? value.trim().replace(',', '.') : value.trim(),
      ]),
  ) as Partial<Said<K>>;
}
