import { examplePlan } from '../simulation/examples.fixture';
import { cardsOf } from './cards';
import type { Body } from './events';
import { judge } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { said } from './render';

/* The appliance round beside the hold (DOMAIN 5.5): a card each, of which the last counts. */

const plan = examplePlan('propane-tank-check');
const card = (more: Partial<Extract<Body, { type: 'appliance' }>> = {}): Body => ({
  type: 'appliance',
  name: 'Range',
  make: 'Ostra',
  model: '4',
  serial: '1207',
  checks: [{ id: 'shut-off', ok: true }],
  ...more,
});
const notes = (log: LogBuilder) =>
  said(plan, judge(plan, log.events))
    .filter(({ code }) => code.startsWith('appliance'))
    .map(({ sentence, weight }) => [weight, sentence]);

test('what is in order says nothing; what is not is written with what is to be done, and moves no verdict', () => {
  const log = new LogBuilder(plan).write(card());
  expect(notes(log)).toEqual([]);
  const before = judge(plan, log.events).provisional;
  log.write(card({ checks: [{ id: 'connector', ok: false, todo: 'new connector, by Friday' }] }));
  expect(notes(log)).toEqual([
    [
      'note',
      'Range: “Flexible connector whole, of the right kind, through no wall” is not in order. To be done: new connector, by Friday.',
    ],
  ]);
  expect(judge(plan, log.events).provisional).toBe(before);
});

test('the last card of an appliance counts, and one with another serial is flagged as swapped', () => {
  const of = '11111111-1111-4111-8111-111111111111';
  const log = new LogBuilder(plan)
    .write(card({ of, checks: [{ id: 'covers', ok: false, todo: 'sweep' }] }))
    .write(card({ of, was: '1207', serial: '1588' }))
    .write(card({ name: 'Heater' }));
  expect(cardsOf(log.events).map(({ name, serial }) => `${name} ${serial}`)).toEqual(['Range 1588', 'Heater 1207']);
  expect(notes(log)).toEqual([['note', 'Range: serial 1588 instead of 1207, another appliance than before.']]);
  log.write(card({ of, was: '1207', serial: '1207' }));
  expect(notes(log)).toEqual([]);
});
