import { judge } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { hold, instrument, planOf } from '@/core/judging/one-phase.fixture';
import { lookedAt, openHolds, presentOf } from './run-model';

/* Two holds at the same time on one screen: which there are, what each wants, and which is looked at. */

const plan = planOf(
  [
    hold({ kind: 'no-fall', threshold: '0.25' }, { id: 'low', title: 'Low', restartFrom: 'low' }),
    hold(
      { kind: 'no-fall', threshold: '0.25' },
      { id: 'high', title: 'High', restartFrom: 'high', alongside: 'low', instrument: 'other', unit: 'mbar' },
    ),
  ],
  { instruments: { other: instrument('mbar', '0.01', '1000') } },
);
const start = 1_795_000_000_000;
const device = 'device-1';
const begun = () => new LogBuilder(plan).at(0).read('low', 'start', '100.00').at(20).read('high', 'start', '200.00');
const holds = (log: LogBuilder) => openHolds(plan, judge(plan, log.events)).map(({ phase, dueAt, wants }) => [phase.id, dueAt ?? wants]);
const looked = (log: LogBuilder, chosen?: { readonly phase: string; readonly heard: number }) =>
  lookedAt(plan, judge(plan, log.events), log.events, device, chosen);

test('one alone is nothing to choose from; two show their clocks, or what they want', () => {
  expect(holds(new LogBuilder(plan))).toEqual([]);
  expect(holds(new LogBuilder(plan).at(0).read('low', 'start', '100.00'))).toEqual([
    ['low', start + 600_000],
    ['high', 'start not read'],
  ]);
  expect(holds(begun())).toEqual([
    ['low', start + 600_000],
    ['high', start + 620_000],
  ]);
  const knocked = begun().at(100).write({ type: 'disturbance', phase: 'high', round: 1, what: 'gauge touched', text: '' });
  expect(holds(knocked)[1]).toEqual(['high', 'to be done again']);
  expect(holds(begun().at(601).read('low', 'end', '100.00'))).toEqual([]);
});

test('what was chosen stays until something is read there; a note in between is not that', () => {
  const log = begun();
  const chosen = { phase: 'high', heard: log.events.length };
  expect(looked(log)).toBeUndefined();
  expect(looked(log, chosen)).toBe('high');
  expect(looked(log.at(50).read('high', 'between', '200.00').read('low', 'between', '100.00'), chosen)).toBe('high');
  expect(looked(log.at(621).read('high', 'end', '200.00'), chosen)).toBeUndefined();
});

test('a stamp whose figure is still to be typed keeps its hold on the screen, also when the other falls due', () => {
  const log = begun().at(590).write({ type: 'stamp', phase: 'high', round: 1, role: 'between' });
  expect(looked(log)).toBe('high');
  expect(presentOf(plan, judge(plan, log.events), log.events, start + 601_000, looked(log)).phase?.id).toBe('high');
  log.write({ type: 'withdrawn', reading: log.lastId, reason: 'Stamp discarded before a figure was typed' });
  expect(looked(log)).toBeUndefined();
  expect(presentOf(plan, judge(plan, log.events), log.events, start + 601_000, looked(log)).phase?.id).toBe('low');
});

test('the picture follows the hold that is looked at', () => {
  const log = begun();
  const judgement = judge(plan, log.events);
  expect(presentOf(plan, judgement, log.events, start + 30_000, 'high').view.current).toBe('high');
  expect(presentOf(plan, judgement, log.events, start + 30_000).view.current).toBe('low');
  expect(presentOf(plan, judgement, log.events, start + 30_000, 'nowhere').view.current).toBe('low');
});
