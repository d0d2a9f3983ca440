import { randomUUID } from 'node:crypto';
import { asc, desc, eq } from 'drizzle-orm';
import { boolean, object, string } from 'yup';
import { dateText } from '@/core/judging';
import { compare, decimal, isPressureUnit, unitsOf } from '@/core/quantities';
import { type AnyInstrument, instrumentKinds, neverCalibrated, type RigCheck } from '@/core/sizing';
import { withFirm } from '@/db/connection';
import { calibration, instrument } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { checked } from './forms';
import { rigChecks } from './standing';

export type Calibration = typeof calibration.$inferSelect;
export interface KeptInstrument {
  readonly instrument: AnyInstrument;
  readonly calibrations: readonly Calibration[];
  /** Days until the calibration is due, negative when overdue; undefined when none is needed or none is known. */
  readonly dueInDays?: number;
}

const figure = (message: string) =>
  string()
    .trim()
    .required(message)
    .transform((text: string) => text.replace(',', '.'))
    .test('figure', message, (text) => /^-?[0-9]{1,12}(\.[0-9]{1,9})?$/.test(text ?? ''));

/** What an instrument of the firm may show. */
export const shownKinds = ['pressure', 'flow', 'volume', 'length', 'turns', 'temperature'] as const;
const shownUnits: readonly string[] = shownKinds.flatMap((kind) => unitsOf(kind));

const instrumentForm = object({
  name: string().trim().required('Name it as you would on site.').max(80, 'Keep the name under 80 characters.'),
  kind: string()
    .oneOf(instrumentKinds, 'Choose digital, liquid, needle, scale or barometer.')
    .required('Choose digital, liquid, needle, scale or barometer.'),
  unit: string()
    .test('unit', 'Choose the unit that it shows.', (text) => shownUnits.includes(text ?? ''))
    .required('Choose the unit that it shows.'),
  readability: figure('Give the smallest movement that it shows, such as 0.1.'),
  rangeLow: figure('Give the lower end of its range.'),
  rangeHigh: figure('Give the upper end of its range.'),
  serial: string().trim().required('Give its serial number.').max(60, 'Keep the serial under 60 characters.'),
  calibrationNeeded: boolean().default(true),
  simulated: boolean().default(false),
});

/** 31 February is a date in form only. */
const isCalendarDay = (text: string): boolean => {
  const at = Date.parse(`${text}T00:00:00Z`);
  return !Number.isNaN(at) && at >= 0 && dateText(at) === text;
};

const dateForm = /^\d{4}-\d{2}-\d{2}$/;
const calibrationForm = object({
  doneOn: string().matches(dateForm, 'Give the date of the calibration.').required('Give the date of the calibration.'),
  dueOn: string().matches(dateForm, 'Give the date when the next is due.').required('Give the date when the next is due.'),
  reference: string().trim().required('Give the certificate’s reference.').max(80, 'Keep the reference under 80 characters.'),
});

function toInstrument(
  row: typeof instrument.$inferSelect,
  calibrations: readonly Calibration[],
  rigCheck: RigCheck | undefined,
): KeptInstrument {
  const last = calibrations[0];
  const kept: AnyInstrument = {
    id: row.id,
    name: row.name,
    kind: row.kind,
    unit: row.unit as AnyInstrument['unit'],
    readability: row.readability,
    rangeLow: row.rangeLow,
    rangeHigh: row.rangeHigh,
    serial: row.serial,
    simulated: row.simulated,
    rigCheck,
    // A gauge that needs calibration and has none on file counts as overdue since its beginning.
    calibration: row.calibrationNeeded
      ? { needed: true, last: last?.doneOn ?? neverCalibrated, due: last?.dueOn ?? neverCalibrated }
      : { needed: false },
  };
  const due =
    row.calibrationNeeded && last !== undefined
      ? Math.round((Date.parse(last.dueOn) - Date.parse(dateText(now()))) / 86_400_000)
      : undefined;
  return { instrument: kept, calibrations, dueInDays: due };
}

export const listInstruments = (actor: Actor): Promise<readonly KeptInstrument[]> =>
  withFirm(actor.firmId, async (tx) => {
    const rows = await tx.select().from(instrument).orderBy(asc(instrument.name));
    const rigs = await rigChecks(tx);
    const calibrations = await tx.select().from(calibration).orderBy(desc(calibration.doneOn));
    return rows.map((row) =>
      toInstrument(
        row,
        calibrations.filter(({ instrumentId }) => instrumentId === row.id),
        rigs.get(row.id),
      ),
    );
  });

export async function addInstrument(actor: Actor, form: unknown): Promise<Answer<{ id: string }>> {
  const refused = refusedTo(actor, 'edit instruments');
  if (refused !== undefined) return refused;
  const input = await checked(instrumentForm, form);
  if (!input.ok) return input;
  const { readability, rangeLow, rangeHigh } = input.value;
  if (compare(decimal(readability), decimal('0')) <= 0)
    return refuse(400, 'form', 'The smallest movement must be above zero.', 'readability');
  if (input.value.kind === 'barometer' && !isPressureUnit(input.value.unit))
    return refuse(400, 'form', 'A barometer shows a pressure: choose hPa or mbar.', 'unit');
  if (compare(decimal(rangeLow), decimal(rangeHigh)) >= 0)
    return refuse(400, 'form', 'The range must end above where it starts.', 'rangeHigh');
  return withFirm(actor.firmId, async (tx) => {
    const id = randomUUID();
    await tx.insert(instrument).values({ id, firmId: actor.firmId, createdAt: nowDate(), ...input.value });
    return answer({ id });
  });
}

export async function addCalibration(actor: Actor, instrumentId: string, form: unknown): Promise<Answer<{ id: string }>> {
  const refused = refusedTo(actor, 'edit instruments');
  if (refused !== undefined) return refused;
  if (!isUuid(instrumentId)) return notFound;
  const input = await checked(calibrationForm, form);
  if (!input.ok) return input;
  for (const field of ['doneOn', 'dueOn'] as const)
    if (!isCalendarDay(input.value[field])) return refuse(400, 'form', 'That is not a date of the calendar.', field);
  if (input.value.doneOn > dateText(now())) return refuse(400, 'form', 'The calibration cannot lie in the future.', 'doneOn');
  if (input.value.dueOn <= input.value.doneOn) return refuse(400, 'form', 'The next calibration must be due after this one.', 'dueOn');
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select({ id: instrument.id }).from(instrument).where(eq(instrument.id, instrumentId));
    if (found === undefined) return notFound;
    const id = randomUUID();
    await tx
      .insert(calibration)
      .values({ id, firmId: actor.firmId, instrumentId, ...input.value, recordedBy: actor.userId, recordedAt: nowDate() });
    return answer({ id });
  });
}
