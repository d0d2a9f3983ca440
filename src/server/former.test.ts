import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { RunEvent } from '@/core/judging';
import { figuresOf } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { withFirm } from '@/db/connection';
import { calibration, event, instrument } from '@/db/schema';
import { at } from './clock';
import { receive } from './field';
import { details, must, openTestFirm } from './test-firm.fixture';
import { createTest, readTest } from './tests';

/* Runs that were planned by builds before this one, as those builds wrote them: nothing is refused, nothing is lost, nothing is looser. */

const firm = await openTestFirm('former');
const { firmId, iola, systemId, sign } = firm;
afterAll(() => firm.close());

interface Sample {
  readonly plan: { readonly gauge: { readonly id: string } & Record<string, string>; readonly hash: string };
  readonly events: readonly RunEvent[];
}

const sample = (name: string): Sample => JSON.parse(readFileSync(join(import.meta.dirname, 'former', name), 'utf8')) as Sample;

/** Sent as a device sends it, an hour after it was done; each run with an id of its own. */
async function sent({ plan, events }: Sample) {
  const [testId, runId] = [randomUUID(), randomUUID()];
  const own = events.map((event) => ({ ...event, run: runId, author: iola.userId }));
  return at((own.at(-1)?.enteredAt ?? 0) + 3_600_000, async () => {
    must(await createTest(iola, { id: testId, systemId, details }));
    const { receipts } = must(
      await receive(iola, [
        { kind: 'run', id: runId, testId, number: 1, plan },
        { kind: 'events', run: runId, events: own },
      ]),
    );
    expect(receipts).toEqual([expect.objectContaining({ ok: true }), expect.objectContaining({ ok: true, quarantined: [] })]);
    return { testId, runId, own };
  });
}

test('one of the build before goes on to its verdict', async () => {
  const former = sample('plan-and-events.json');
  const { gauge } = former.plan;
  const began = new Date(former.events[0].observedAt);
  await withFirm(firmId, async (tx) => {
    await tx
      .insert(instrument)
      .values({ ...(gauge as never as typeof instrument.$inferInsert), firmId, calibrationNeeded: true, createdAt: began });
    await tx.insert(calibration).values({
      id: randomUUID(),
      firmId,
      instrumentId: gauge.id,
      doneOn: '2026-06-01',
      dueOn: '2027-06-01',
      reference: 'C-1',
      recordedBy: iola.userId,
      recordedAt: began,
    });
  });
  const { testId, own } = await sent(former);
  const [{ events, judgement }] = must(await readTest(iola, testId)).attempts;
  expect(events.filter(({ device }) => device !== 'server')).toHaveLength(own.length);
  expect(judgement.reasons.filter(({ code }) => code === 'found-differs')).toEqual([]);
  expect(judgement.verdict).toBe('pass');
});

test('one that today’s schema cannot read is kept whole, shown, and proves nothing', async () => {
  const { testId, runId, own } = await sent(sample('unreadable.json'));
  const found = must(await readTest(iola, testId));
  expect(found).toMatchObject({ attempts: [], unread: [{ run: runId, why: expect.stringContaining('plan that can be read') }] });
  await sign(testId);
  const kept = await withFirm(firmId, (tx) => tx.select().from(event).where(eq(event.runId, runId)));
  expect(kept).toHaveLength(own.length);
});

test('no figure of a procedure is changed without a new version of it', () => {
  for (const procedure of procedures) {
    const then = figuresOf(procedure.id, procedure.version);
    const now = Object.fromEntries(procedure.figures.map(({ id, value }) => [id, value]));
    expect([procedure.id, then]).toEqual([procedure.id, now]);
  }
});
