import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { Client } from 'pg';
import { dateText, type RunEvent } from '@/core/judging';
import { firstSections } from '@/core/locating';
import type { Plan } from '@/core/planning';
import { type Job, simulateRun } from '@/core/simulation';
import { demoGauge, jobFor, planFor } from '@/core/simulation/examples.fixture';
import type { AnyInstrument } from '@/core/sizing';
import { closeConnections, withFirm } from '@/db/connection';
import { instrument } from '@/db/schema';
import { testDatabase } from '../../ops/test-database';
import type { Actor } from './actor';
import { stopAnnouncing } from './announce';
import type { Answer } from './answers';
import { addPerson } from './auth';
import { now } from './clock';
import { judgementHash } from './drafts';
import { appendEvents } from './events';
import { addFirm } from './firms';
import { addCalibration } from './instruments';
import { rotateKey } from './keys';
import { addSignature } from './signatures';
import { createRun, createTest, readTest } from './tests';
import { makeThing } from './things';

/** The value of an answer; a test that meets a problem instead has failed. */
export function must<T>(result: Answer<T>): T {
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
}

export const details = { jobOrigin: 'round', visualInspection: 'done', meterNumber: 'M-1', meterReading: '100' } as const;
export const stroke = [[0, 0, 100, 100, 200, 50, 300, 80, 400, 20]];

const day = 86_400_000;

/** A start from which a simulated job ends a minute ago. */
function startOf(plan: Plan, fault: string, seed: number, job: Partial<Job>): number {
  const events = simulateRun(jobFor(plan, fault, seed, job));
  const first = events[0]?.observedAt ?? 0;
  return (job.startAt ?? jobFor(plan, fault, seed, job).startAt) + now() - 60_000 - (events.at(-1)?.enteredAt ?? first);
}

/** The instrument as the firm's register knows it, with an id of its own and a calibration that stands. */
async function registered<I extends AnyInstrument>({ firmId, gauge, actor }: { firmId: string; gauge: I; actor: Actor }): Promise<I> {
  const calibrated = { doneOn: dateText(now() - 100 * day), dueOn: dateText(now() + 265 * day) };
  const { id } = must(
    await makeThing(actor, 'instrument', {
      name: gauge.name,
      kind: gauge.kind,
      unit: gauge.unit,
      readability: gauge.readability,
      rangeLow: gauge.rangeLow,
      rangeHigh: gauge.rangeHigh,
      simulated: gauge.simulated,
      serial: gauge.serial || randomUUID().slice(0, 8),
      calibrationNeeded: gauge.calibration.needed,
    }),
  );
  if (gauge.calibration.needed) must(await addCalibration(actor, id, { ...calibrated, reference: 'C-1' }));
  const [row] = await withFirm(firmId, (tx) => tx.select().from(instrument).where(eq(instrument.id, id)));
  return {
    ...gauge,
    id,
    serial: row.serial,
    calibration: gauge.calibration.needed ? { needed: true, last: calibrated.doneOn, due: calibrated.dueOn } : { needed: false },
  };
}

/** A firm with people and a system, and another firm beside it, on a database of their own. For tests of the server. */
export async function openTestFirm(label: string) {
  const database = await testDatabase('empty', label);
  process.env.VAST_DATABASE_URL = database.appUrl;
  process.env.VAST_AUTH_DATABASE_URL = database.authUrl;
  const firmId = randomUUID();
  const otherFirmId = randomUUID();
  await addFirm(firmId, 'Test firm', '0000');
  await addFirm(otherFirmId, 'Other firm', '0000');
  await rotateKey(firmId);
  await rotateKey(otherFirmId);
  const iola = await addPerson({
    firmId,
    name: 'Test technician',
    email: 'one@test.invalid',
    password: 'long-enough-1',
    role: 'technician',
  });
  const wren = await addPerson({
    firmId,
    name: 'Test supervisor',
    email: 'two@test.invalid',
    password: 'long-enough-2',
    role: 'supervisor',
  });
  const stranger = await addPerson({
    firmId: otherFirmId,
    name: 'Other technician',
    email: 'three@test.invalid',
    password: 'long-enough-3',
    role: 'supervisor',
  });
  const { id: siteId } = must(await makeThing(iola, 'site', { name: 'Site', address: 'Somewhere 1' }));
  const gauge = await registered({ firmId, gauge: demoGauge, actor: wren });
  const sections = firstSections('gas', ['Boiler', 'Hob']);
  const { id: systemId } = must(await makeThing(iola, 'system', { siteId, name: 'Gas', pipes: '22cu 12\n15cu 9', sections }));
  for (const kind of ['Boiler', 'Hob']) must(await makeThing(iola, 'component', { systemId, kind }));

  /** A test of the system with its first attempt by this plan, nothing written yet. */
  const begun = async (plan: Plan): Promise<{ testId: string; runId: string }> => {
    const [testId, runId] = [randomUUID(), randomUUID()];
    must(await createTest(iola, { id: testId, systemId, details }));
    must(await createRun(iola, { id: runId, testId, number: 1, plan }));
    return { testId, runId };
  };

  return {
    begun,
    firmId,
    otherFirmId,
    iola,
    wren,
    stranger,
    systemId,
    /** In the register, calibrated a hundred days ago. */
    gauge,
    /** A plan on it. */
    planned: (change: Parameters<typeof planFor>[0] = {}): Plan => planFor({ gauge, on: dateText(now()), ...change }),
    /** Puts an instrument in the register as the plan of an example names it. */
    register: <I extends AnyInstrument>(one: I): Promise<I> => registered({ firmId, gauge: one, actor: wren }),
    /** Events of a run on a simulated plant that ends about now, by the technician's own hand. */
    events: (plan: Plan, fault: string, seed: number, job: Partial<Job> = {}): readonly RunEvent[] =>
      simulateRun(jobFor(plan, fault, seed, { author: iola.userId, startAt: startOf(plan, fault, seed, job), ...job })),
    /** A finished test of the system on a plant with a fault. */
    async finishedTest(
      fault = 'sound',
      seed = 3,
      plan = planFor({ gauge, on: dateText(now()) }),
      job: Partial<Job> = {},
    ): Promise<{ testId: string; runId: string; plan: Plan }> {
      const { testId, runId } = await begun(plan);
      must(
        await appendEvents(
          iola,
          runId,
          simulateRun(jobFor(plan, fault, seed, { author: iola.userId, startAt: startOf(plan, fault, seed, job), ...job, run: runId })),
        ),
      );
      return { testId, runId, plan };
    },
    /** Both signatures, bound to the judgement as it stands. */
    async sign(testId: string): Promise<void> {
      const hash = judgementHash(must(await readTest(iola, testId)));
      for (const role of ['technician', 'customer'] as const)
        must(
          await addSignature(iola, testId, {
            id: randomUUID(),
            role,
            name: 'Somebody',
            strokes: stroke,
            judgementHash: hash,
            signedAt: now(),
          }),
        );
    },
    /** As the owner of the tables, to look behind the application's role. */
    async owner<T>(work: (client: Client) => Promise<T>): Promise<T> {
      const client = new Client({ connectionString: database.ownerUrl });
      await client.connect();
      try {
        return await work(client);
      } finally {
        await client.end();
      }
    },
    async close(): Promise<void> {
      stopAnnouncing();
      await closeConnections();
      await database.drop();
    },
  };
}
