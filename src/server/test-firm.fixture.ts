import { randomUUID } from 'node:crypto';
import { Client } from 'pg';
import type { Plan } from '@/core/planning';
import { type Job, simulateRun } from '@/core/simulation';
import { jobFor, planFor } from '@/core/simulation/examples.fixture';
import { closeConnections } from '@/db/connection';
import { testDatabase } from '../../ops/test-database';
import type { Answer } from './answers';
import { addPerson } from './auth';
import { addSignature, judgementHash } from './certificates';
import { now } from './clock';
import { addFirm } from './firms';
import { rotateKey } from './keys';
import { addSite, addSystem } from './sites';
import { appendEvents, createRun, createTest, readTest } from './tests';

/** The value of an answer; a test that meets a problem instead has failed. */
export function must<T>(result: Answer<T>): T {
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
}

export const details = { jobOrigin: 'round', visualInspection: 'done', meterNumber: 'M-1', meterReading: '100' } as const;
export const stroke = [[0, 0, 100, 100, 200, 50, 300, 80, 400, 20]];

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
  const site = must(await addSite(iola, { name: 'Site', address: 'Somewhere 1', occupier: '' }));
  const systemId = must(await addSystem(iola, site.id, { name: 'Gas', pipes: '22cu 12\n15cu 9', components: 'Boiler\nHob' })).id;

  return {
    firmId,
    otherFirmId,
    iola,
    wren,
    stranger,
    systemId,
    /** A finished test of the system on a plant with a fault. */
    async finishedTest(
      fault = 'sound',
      seed = 3,
      plan = planFor({}),
      job: Partial<Job> = {},
    ): Promise<{ testId: string; runId: string; plan: Plan }> {
      const [testId, runId] = [randomUUID(), randomUUID()];
      must(await createTest(iola, { id: testId, systemId, details }));
      must(await createRun(iola, { id: runId, testId, number: 1, plan }));
      must(await appendEvents(iola, runId, simulateRun(jobFor(plan, fault, seed, { ...job, run: runId }))));
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
      await closeConnections();
      await database.drop();
    },
  };
}
