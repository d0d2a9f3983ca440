import { randomUUID } from 'node:crypto';
import { group } from 'd3-array';
import { asc, desc, eq, inArray } from 'drizzle-orm';
import { dateText } from '@/core/exact';
import { type Calibration, calibrationFault, type KnownInstrument } from '@/core/register';
import { type AnyInstrument, neverCalibrated } from '@/core/sizing';
import { type Transaction, withFirm } from '@/db/connection';
import { calibration, instrument } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { rigChecks } from './standing';
import { thingsOf } from './things';

type Row = typeof instrument.$inferSelect;
type CalibrationRow = typeof calibration.$inferSelect;

/** A gauge that needs calibration and has none on file counts as overdue since its beginning. */
const calibrationOf = ({ calibrationNeeded }: Row, last: CalibrationRow | undefined): AnyInstrument['calibration'] =>
  calibrationNeeded ? { needed: true, last: last?.doneOn ?? neverCalibrated, due: last?.dueOn ?? neverCalibrated } : { needed: false };

/** Instruments with their calibrations and what their rigs came to; only these where ids are given. */
export async function knownInstruments(tx: Transaction, ids?: readonly string[]): Promise<readonly KnownInstrument[]> {
  if (ids?.length === 0) return [];
  const among = ids === undefined ? undefined : [...new Set(ids)];
  const rows = await tx
    .select()
    .from(instrument)
    .where(among === undefined ? undefined : inArray(instrument.id, among))
    .orderBy(asc(instrument.name));
  const rigs = await rigChecks(tx);
  const calibrations = await tx
    .select()
    .from(calibration)
    .where(among === undefined ? undefined : inArray(calibration.instrumentId, among))
    .orderBy(desc(calibration.doneOn));
  const byInstrument = group(calibrations, ({ instrumentId }) => instrumentId);
  return rows.map((row) => {
    const own = byInstrument.get(row.id) ?? [];
    return {
      id: row.id,
      name: row.name,
      kind: row.kind,
      unit: row.unit as AnyInstrument['unit'],
      readability: row.readability,
      rangeLow: row.rangeLow,
      rangeHigh: row.rangeHigh,
      serial: row.serial,
      simulated: row.simulated,
      rigCheck: rigs.get(row.id),
      calibration: calibrationOf(row, own[0]),
      version: row.version,
      putAway: row.putAway,
      calibrationNeeded: row.calibrationNeeded,
      calibrations: own.map(({ id, doneOn, dueOn, reference }) => ({ id, doneOn, dueOn, reference })),
    };
  });
}

/** The firm's instruments, but for those that are put away. */
export const listInstruments = (actor: Actor): Promise<readonly KnownInstrument[]> =>
  withFirm(actor.firmId, async (tx) => (await knownInstruments(tx)).filter(({ putAway }) => !putAway));

/** Everything that the firm measures with and closes openings by, also what is put away. */
export const allInstruments = (actor: Actor) =>
  withFirm(actor.firmId, async (tx) => ({ instruments: await knownInstruments(tx), equipment: await thingsOf(tx, 'equipment') }));

/** A calibration of an instrument; the same id again is the same calibration. */
export async function addCalibration(
  actor: Actor,
  instrumentId: string,
  form: unknown,
  id: string = randomUUID(),
): Promise<Answer<{ id: string }>> {
  const refused = refusedTo(actor, 'edit instruments');
  if (refused !== undefined) return refused;
  if (!isUuid(instrumentId) || !isUuid(id)) return notFound;
  const problem = calibrationFault(form, dateText(now()));
  if (problem !== undefined) return refuse(400, problem.code, problem.message, problem.field);
  const { doneOn, dueOn, reference } = form as Calibration;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select({ id: instrument.id }).from(instrument).where(eq(instrument.id, instrumentId));
    if (found === undefined) return notFound;
    await tx
      .insert(calibration)
      .values({
        id,
        firmId: actor.firmId,
        instrumentId,
        doneOn,
        dueOn,
        reference: reference.trim(),
        recordedBy: actor.userId,
        recordedAt: nowDate(),
      })
      .onConflictDoNothing();
    return answer({ id });
  });
}
