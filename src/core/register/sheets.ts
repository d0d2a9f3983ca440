import { type SystemKind, systemKinds, systemKindWords } from '../procedures';
import { type Problem, unitLabel, unitsOf } from '../quantities';
import { instrumentKinds } from '../sizing';
import { shownKinds } from './faults';
import { plain } from './search';
import { blank } from './things';

/*
 * Tables that people keep elsewhere, as things of the register: which columns a table of each kind can have, by which names people
 * head them, and what a cell means. Nothing is guessed that sets a limit: what cannot be read is said at its cell.
 */

export const sheetKinds = ['site', 'system', 'component', 'instrument'] as const;
export type SheetKind = (typeof sheetKinds)[number];

type Read = (text: string) => { readonly value: unknown } | { readonly fault: string };

export interface SheetColumn {
  readonly field: string;
  readonly label: string;
  /** As people head it, besides the label. */
  readonly heads: readonly string[];
  readonly needed?: true;
  readonly read: Read;
}

const words: Read = (text) => ({ value: text });
/** A figure as people write it: a comma may stand for the point, spaces for nothing. */
const figure: Read = (text) => {
  const tidy = text.replace(/[\s\u00a0\u202f]/g, '').replace(/\u2212/g, '-');
  if (/^-?[1-9]\d{0,2}(,\d{3})+$/.test(tidy))
    return { fault: `Is ${tidy} a thousand, or one with three decimals? Write it with a point, or without the comma.` };
  if (/^-?\d+,\d+$/.test(tidy)) return { value: tidy.replace(',', '.') };
  return /^-?\d+(\.\d+)?$/.test(tidy) || tidy === ''
    ? { value: tidy }
    : { fault: 'This is no figure: write it as 0.1, its unit in a column of its own.' };
};
/** A day, in the one way that everybody reads alike. */
const day: Read = (text) =>
  text === '' || /^\d{4}-\d{2}-\d{2}$/.test(text) ? { value: text } : { fault: 'Write the date as 2026-12-31: year, month, day.' };
const yes = ['yes', 'y', 'true', '1', 'needed'];
const no = ['no', 'n', 'false', '0', 'none'];
const flag: Read = (text) =>
  yes.includes(plain(text)) ? { value: true } : no.includes(plain(text)) ? { value: false } : { fault: 'Write yes or no.' };
const oneOf =
  <T extends string>(options: readonly T[], called: (option: T) => readonly string[]): Read =>
  (text) => {
    const found = options.find((option) => [option, ...called(option)].some((name) => plain(name) === plain(text)));
    return found === undefined ? { fault: `Write one of: ${options.join(', ')}.` } : { value: found };
  };

const kindOf = oneOf<SystemKind>(systemKinds, (kind) => [
  systemKindWords[kind],
  ...systemKindWords[kind].split(/, | or /),
  ...((
    { gas: ['natural gas'], propane: ['lpg'], heating: ['underfloor', 'hydronic'], drain: ['drainage', 'waste'] } as Partial<
      Record<SystemKind, string[]>
    >
  )[kind] ?? []),
]);
const gaugeKind = oneOf(
  instrumentKinds,
  (kind) =>
    ({ digital: ['electronic'], liquid: ['water column', 'u-tube'], needle: ['dial', 'bourdon'], scale: ['rule'], barometer: [] })[
      kind
    ] as readonly string[],
);

const units = shownKinds.flatMap((kind) => unitsOf(kind) as readonly string[]);
const anyUnit = oneOf(units, (one) => [unitLabel(one as never), `${one}s`]);
/** Case is no matter, but for the one letter that is a thousandth small and a million great. */
const unit: Read = (text) => {
  const got = anyUnit(text);
  const swapped = 'value' in got && /^m/i.test(text) && text[0] !== String(got.value)[0];
  return swapped
    ? { fault: `Is it ${got.value}? A small m is a thousandth, a great M a million: write it as it stands on the gauge.` }
    : got;
};

const column = (field: string, label: string, read: Read = words, ...heads: string[]): SheetColumn => ({ field, label, read, heads });
const needed = (one: SheetColumn): SheetColumn => ({ ...one, needed: true });
const ofSite = [needed(column('site', 'Site', words, 'site name', 'property', 'building')), column('siteAddress', 'Site address', words)];

export const sheetColumns: Readonly<Record<SheetKind, readonly SheetColumn[]>> = {
  site: [
    needed(column('name', 'Name', words, 'site', 'site name', 'property', 'building')),
    needed(column('address', 'Address', words, 'street', 'place', 'site address')),
    column('occupier', 'Occupier', words, 'customer', 'tenant', 'client', 'contact'),
    column('access', 'Access', words, 'access notes', 'how to get in', 'keys', 'note', 'notes'),
  ],
  system: [
    ...ofSite,
    needed(column('name', 'System', words, 'name', 'system name', 'installation')),
    needed(column('kind', 'Kind', kindOf, 'type', 'medium', 'service')),
    column('pipes', 'Pipes', words, 'pipework', 'schedule', 'pipe schedule'),
    column('statedVolume', 'Volume', words, 'stated volume', 'pipe volume'),
  ],
  component: [
    ...ofSite,
    needed(column('system', 'System', words, 'system name', 'installation')),
    needed(column('kind', 'What it is', words, 'kind', 'type', 'appliance', 'component', 'name')),
    column('make', 'Make', words, 'manufacturer', 'brand', 'maker'),
    column('model', 'Model', words, 'model number'),
    column('serial', 'Serial', words, 'serial number', 'serial no', 'sn'),
    column('rating', 'Rating', words, 'max pressure', 'rated pressure'),
    column('height', 'Height above the gauge', words, 'height'),
    column('fitted', 'Fitted', day, 'installed', 'fitted on', 'install date'),
    column('removed', 'Removed', day, 'removed on'),
    column('note', 'Note', words, 'notes', 'remark'),
  ],
  instrument: [
    needed(column('name', 'Name', words, 'gauge', 'instrument', 'description')),
    needed(column('kind', 'Kind', gaugeKind, 'type')),
    needed(column('unit', 'Unit', unit, 'units')),
    needed(column('readability', 'Smallest movement', figure, 'readability', 'resolution', 'division')),
    needed(column('rangeLow', 'Range from', figure, 'range low', 'minimum', 'min', 'from')),
    needed(column('rangeHigh', 'Range to', figure, 'range high', 'maximum', 'max', 'to')),
    needed(column('serial', 'Serial', words, 'serial number', 'serial no', 'sn')),
    column('calibrationNeeded', 'Calibration needed', flag, 'needs calibration'),
    column('doneOn', 'Calibrated on', day, 'calibrated', 'calibration date', 'last calibration'),
    column('dueOn', 'Calibration due', day, 'due', 'due on', 'next calibration'),
    column('reference', 'Calibration certificate', words, 'calibration reference', 'certificate', 'reference'),
  ],
};

/** What stands in one row, by column of the register. */
export type SheetCells = Readonly<Record<string, string>>;

/** Which column of a table each of ours is; undefined where none looks like it. */
export function guessColumns(kind: SheetKind, header: readonly string[]): Readonly<Record<string, number | undefined>> {
  const heads = header.map((head) => plain(head.trim()).replace(/[._]/g, ' '));
  const taken = new Set<number>();
  const found: Record<string, number | undefined> = {};
  // Those that are headed just so first: “Site” is nobody else’s.
  for (const names of [({ label }: SheetColumn) => [label], ({ field, heads: own }: SheetColumn) => [field, ...own]])
    for (const one of sheetColumns[kind]) {
      if (found[one.field] !== undefined) continue;
      const at = heads.findIndex((head, index) => !taken.has(index) && names(one).some((name) => plain(name) === head));
      if (at < 0) continue;
      found[one.field] = at;
      taken.add(at);
    }
  return found;
}

/**
 * Why a cell is a formula and no value; undefined where it is none. A table that was saved with its formulas says what somebody worked
 * out, and not what it came to.
 */
export function formulaFault(text: string): string | undefined {
  // A sign may also begin a figure, a telephone number, or a word.
  const isFormula = /^[=@]/.test(text) || /^[+-].*(\b[A-Za-z]{1,3}\$?\d+\b|[A-Za-z]\()/.test(text);
  return isFormula
    ? `This is a formula (${text.slice(0, 20)}), not what it comes to. Save the table with its values, or type the value here.`
    : undefined;
}

/** A cell without the mark that keeps a spreadsheet from taking it for a formula, and without space around it. */
const tidy = (text: string): string => {
  const own = text.trim();
  return /^'[=+\-@]/.test(own) ? own.slice(1) : own;
};

export interface SheetRow {
  /** What is said of the thing, but for what it hangs on. */
  readonly said: Readonly<Record<string, unknown>>;
  /** What it hangs on, as the row names it. */
  readonly of: { readonly site: string; readonly siteAddress: string; readonly system: string };
  readonly calibration?: { readonly doneOn: string; readonly dueOn: string; readonly reference: string };
}

const beside = new Set(['site', 'siteAddress', 'system', 'doneOn', 'dueOn', 'reference']);

/** A row as a thing of the register, or what is wrong with it and at which cell. */
export function readSheetRow(kind: SheetKind, cells: SheetCells): { readonly row: SheetRow } | { readonly problem: Problem } {
  const wrong = (field: string, message: string) => ({ problem: { code: 'cell', message, field } });
  const values: Record<string, unknown> = {};
  for (const { field, label, read, needed: isNeeded } of sheetColumns[kind]) {
    const raw = (cells[field] ?? '').trim();
    const formula = formulaFault(raw);
    if (formula !== undefined) return wrong(field, formula);
    const text = tidy(raw);
    if (text === '') {
      if (isNeeded) return wrong(field, `${label} is missing.`);
      if (read !== flag) values[field] = '';
      continue;
    }
    const got = read(text);
    if ('fault' in got) return wrong(field, got.fault);
    values[field] = got.value;
  }
  const text = (field: string) => String(values[field] ?? '');
  const said = {
    ...blank[kind],
    ...Object.fromEntries(Object.entries(values).filter(([field]) => !beside.has(field))),
  };
  const calibration = { doneOn: text('doneOn'), dueOn: text('dueOn'), reference: text('reference') };
  const isCalibrated = Object.values(calibration).some((one) => one !== '');
  if (kind === 'instrument' && isCalibrated && (calibration.doneOn === '' || calibration.dueOn === ''))
    return wrong(
      calibration.doneOn === '' ? 'doneOn' : 'dueOn',
      'A calibration has both: the day on which it was done, and on which it is due.',
    );
  return {
    row: {
      said,
      of: { site: text('site'), siteAddress: text('siteAddress'), system: kind === 'component' ? text('system') : '' },
      ...(kind === 'instrument' && isCalibrated ? { calibration } : {}),
    },
  };
}

/** By what a row is known as one that stands already: the same thing twice is a twin. */
export function sameAs(kind: SheetKind, said: Readonly<Record<string, unknown>>): string {
  const part = (field: string) => plain(String(said[field] ?? '').trim());
  const by: Readonly<Record<SheetKind, readonly string[]>> = {
    site: ['name', 'address'],
    system: ['siteId', 'name'],
    component: ['systemId', 'kind', 'make', 'model', 'serial'],
    instrument: ['name', 'serial'],
  };
  return by[kind].map(part).join('\n');
}
