import fc from 'fast-check';
import { blank, type History } from '@/core/register';
import { freshStore } from '@/device/device.fixture';
import { keepHistories, neverTested } from '@/device/store';
import { todayOnDevice } from './today-on-device';

/* Today reads indexes and never all of history; what it shows is what reading all of it would give. */

const siteId = 'site-1';
const history = fc.record({
  systemId: fc.integer({ min: 0, max: 11 }).map((system) => `system-${system}`),
  at: fc.integer({ min: 1, max: 1_000_000 }),
  verdict: fc.constantFrom('pass', 'fail', 'in progress'),
  sealed: fc.boolean(),
  fallen: fc.boolean(),
});

test('systems tested longest ago, what is not sealed, gauges that fell and the last verdicts', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(history, { maxLength: 40 }), fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), async (made, away) => {
      const store = freshStore();
      const at = new Map(made.map((one, index) => [one.at * 64 + index, one]));
      const histories = [...at].map(
        ([moment, { systemId, verdict, sealed, fallen }], index): History => ({
          test: `test-${index}`,
          run: `run-${index}`,
          systemId,
          verdict: verdict as History['verdict'],
          at: moment,
          technician: '',
          attempts: 1,
          simulated: false,
          ...(sealed ? { certificate: 'C-1' } : {}),
          ...(fallen ? { alarm: 'fell' } : {}),
        }),
      );
      await store.sites.add({ ...blank.site, id: siteId, version: 1, name: 'Site' } as never);
      await store.systems.bulkPut(
        away.map(
          (putAway, index) => ({ ...blank.system, id: `system-${index}`, siteId, name: `S${index % 7}`, putAway, version: 1 }) as never,
        ),
      );
      await neverTested(
        store,
        away.map((_, index) => `system-${index}`),
      );
      await keepHistories(store, histories);
      const { next, unsealed, fallen, recent } = await todayOnDevice(store, '2026-01-01', 'technician');
      const newestFirst = [...histories].sort((a, b) => b.at - a.at);
      const over = newestFirst.filter(({ verdict }) => verdict !== 'in progress');
      expect(recent.map(({ test }) => test)).toEqual(over.slice(0, 8).map(({ test }) => test));
      expect(unsealed.map(({ test }) => test)).toEqual(over.filter(({ certificate }) => certificate === undefined).map(({ test }) => test));
      expect(fallen.map(({ test }) => test)).toEqual(newestFirst.filter(({ alarm }) => alarm !== undefined).map(({ test }) => test));
      const last = (id: string) => newestFirst.find(({ systemId }) => systemId === id)?.at;
      const waits = away.flatMap((putAway, index) => (putAway ? [] : [last(`system-${index}`) ?? 0])).sort((a, b) => a - b);
      expect(next.map((one) => one.last ?? 0)).toEqual(waits.slice(0, 6));
      expect(next.every(({ id, last: shown }) => shown === last(id) && !away[Number(id.split('-')[1])])).toBe(true);
    }),
    { numRuns: 25 },
  );
});
