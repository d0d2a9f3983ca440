import { and, eq, inArray, sql } from 'drizzle-orm';
import { dateText } from '@/core/judging';
import { changers } from '@/core/permissions';
import {
  blank,
  calibrationFault,
  faultOf,
  plain,
  readSheetRow,
  type SheetCells,
  type SheetKind,
  type SheetRow,
  sameAs,
  sheetKinds,
} from '@/core/register';
import { type Transaction, together } from '@/db/connection';
import { component, instrument, site, system } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, refuse } from './answers';
import { now } from './clock';
import { addCalibration } from './instruments';
import { makeThing, systemsOfSites } from './things';

/* Rows of a table that somebody keeps elsewhere, as things of the register: looked at first, then made. */

export interface SheetFound {
  /** It can be made; it stands already and is left as it is; something is wrong with it; it was made. */
  readonly is: 'ready' | 'stands' | 'wrong' | 'made';
  readonly message?: string;
  readonly field?: string;
}

const mostRows = 500;

type Placed =
  | { readonly said: Readonly<Record<string, unknown>>; readonly calibration?: SheetRow['calibration'] }
  | { readonly found: SheetFound };

const wrong = (message: string, field?: string): { readonly found: SheetFound } => ({
  found: { is: 'wrong', message, ...(field === undefined ? {} : { field }) },
});

/** Of several by their names, as people write them. */
const byName = <T extends { readonly name: string }>(rows: readonly T[]): ReadonlyMap<string, readonly T[]> => {
  const map = new Map<string, T[]>();
  for (const row of rows) map.set(plain(row.name.trim()), [...(map.get(plain(row.name.trim())) ?? []), row]);
  return map;
};

/** Finds what rows hang on: their site, and their system. */
async function placing(tx: Transaction, rows: readonly SheetRow[]): Promise<(kind: SheetKind, row: SheetRow) => Placed> {
  const names = [...new Set(rows.flatMap(({ of }) => (of.site === '' ? [] : [of.site.trim().toLowerCase()])))];
  const sites =
    names.length === 0
      ? []
      : await tx
          .select({ id: site.id, name: site.name, address: site.address })
          .from(site)
          .where(and(eq(site.putAway, false), inArray(sql`lower(trim(${site.name}))`, names)));
  const systems =
    sites.length === 0 || rows.every(({ of }) => of.system === '')
      ? []
      : await systemsOfSites(
          tx,
          sites.map(({ id }) => id),
        );
  const sitesByName = byName(sites);
  const systemsByName = byName(systems);
  return (kind, { said, of, calibration }) => {
    if (kind === 'site' || kind === 'instrument') return { said, calibration };
    const named = sitesByName.get(plain(of.site.trim())) ?? [];
    const there = of.siteAddress === '' ? named : named.filter(({ address }) => plain(address.trim()) === plain(of.siteAddress.trim()));
    if (there.length === 0)
      return wrong(
        named.length === 0
          ? `There is no site “${of.site}”. Take the sites in first, or mend its name.`
          : `There is no site “${of.site}” at this address. It is: ${named[0].address}.`,
        named.length === 0 ? 'site' : 'siteAddress',
      );
    if (there.length > 1)
      return wrong(`There are ${there.length} sites “${of.site}”. Give the address of the one that is meant.`, 'siteAddress');
    if (kind === 'system') return { said: { ...said, siteId: there[0].id } };
    const own = (systemsByName.get(plain(of.system.trim())) ?? []).filter(({ siteId }) => siteId === there[0].id);
    if (own.length === 0) return wrong(`“${of.site}” has no system “${of.system}”. Take the systems in first, or mend its name.`, 'system');
    if (own.length > 1) return wrong(`“${of.site}” has ${own.length} systems “${of.system}”. Name them apart first.`, 'system');
    return { said: { ...said, systemId: own[0].id } };
  };
}

/** What stands already of the same kind, by what makes a twin. */
async function standingOf(
  tx: Transaction,
  kind: SheetKind,
  said: readonly Readonly<Record<string, unknown>>[],
): Promise<ReadonlySet<string>> {
  const texts = (field: string) => [...new Set(said.map((one) => String(one[field] ?? '')))];
  const lower = (field: string) => texts(field).map((text) => text.trim().toLowerCase());
  if (said.length === 0) return new Set();
  const rows: readonly Readonly<Record<string, unknown>>[] =
    kind === 'site'
      ? await tx
          .select()
          .from(site)
          .where(inArray(sql`lower(trim(${site.name}))`, lower('name')))
      : kind === 'instrument'
        ? await tx
            .select()
            .from(instrument)
            .where(inArray(sql`lower(trim(${instrument.serial}))`, lower('serial')))
        : kind === 'system'
          ? await tx
              .select()
              .from(system)
              .where(inArray(system.siteId, texts('siteId')))
          : await tx
              .select()
              .from(component)
              .where(inArray(component.systemId, texts('systemId')));
  return new Set(rows.filter(({ putAway }) => putAway !== true).map((row) => sameAs(kind, row)));
}

const isCells = (one: unknown): one is SheetCells =>
  typeof one === 'object' && one !== null && !Array.isArray(one) && Object.values(one).every((cell) => typeof cell === 'string');

/**
 * Looks at rows of a table, and makes what is ready where that is asked. Answers a line for each row, in their order: what is wrong
 * with one stops no other.
 * @param form `kind`, `rows` (cells by our columns, at most 500), `keep`
 */
export async function takeSheet(
  actor: Actor,
  form: { readonly kind?: unknown; readonly rows?: unknown; readonly keep?: unknown },
): Promise<Answer<readonly SheetFound[]>> {
  const kind = sheetKinds.find((one) => one === form.kind);
  if (kind === undefined) return refuse(400, 'form', 'Choose what the rows are.', 'kind');
  const refused = refusedTo(actor, changers[kind]);
  if (refused !== undefined) return refused;
  const { rows } = form;
  if (!Array.isArray(rows) || rows.length > mostRows || !rows.every(isCells))
    return refuse(400, 'form', `Send the rows as cells by column, ${mostRows} at a time.`, 'rows');
  return together(actor.firmId, async (tx) => {
    const read = rows.map((cells) => readSheetRow(kind, cells));
    const place = await placing(
      tx,
      read.flatMap((one) => ('row' in one ? [one.row] : [])),
    );
    const placed = read.map((one): Placed => ('problem' in one ? wrong(one.problem.message, one.problem.field) : place(kind, one.row)));
    const seen = new Set(
      await standingOf(
        tx,
        kind,
        placed.flatMap((one) => ('said' in one ? [one.said] : [])),
      ),
    );
    const found: SheetFound[] = [];
    const today = dateText(now());
    for (const one of placed) {
      if ('found' in one) {
        found.push(one.found);
        continue;
      }
      const said = { ...blank[kind], ...one.said };
      const fault = faultOf(kind, said) ?? (one.calibration === undefined ? undefined : calibrationFault(one.calibration, today));
      const key = sameAs(kind, said);
      if (fault !== undefined)
        found.push({ is: 'wrong', message: fault.message, ...(fault.field === undefined ? {} : { field: fault.field }) });
      else if (seen.has(key)) found.push({ is: 'stands', message: 'It stands already, or twice in this table, and is left as it is.' });
      else {
        seen.add(key);
        found.push(form.keep === true ? await made(actor, kind, said, one.calibration) : { is: 'ready' });
      }
    }
    return answer(found);
  });
}

async function made(
  actor: Actor,
  kind: SheetKind,
  said: Readonly<Record<string, unknown>>,
  calibration: SheetRow['calibration'],
): Promise<SheetFound> {
  const thing = await makeThing(actor, kind, said as never);
  if (!thing.ok)
    return { is: 'wrong', message: thing.problem.message, ...(thing.problem.field === undefined ? {} : { field: thing.problem.field }) };
  if (calibration === undefined) return { is: 'made' };
  const kept = await addCalibration(actor, thing.value.id, calibration);
  return kept.ok
    ? { is: 'made' }
    : { is: 'made', message: `Made, but without its calibration: ${kept.problem.message}`, field: kept.problem.field };
}
