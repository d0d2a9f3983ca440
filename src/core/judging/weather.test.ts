import { pipeDegrees } from '../course/instruments';
import { exampleInput } from '../planning/example-input';
import { planTest } from '../planning/plan';
import { procedures } from '../procedures';
import { vehicleWater } from '../procedures/vehicle-water';
import { eventsFor, exampleEvents, examplePlan, planFor } from '../simulation/examples.fixture';
import type { Gauge, Thermometer } from '../sizing/gauge';
import { sentenceOf } from './catalogue';
import { judge, judgeGrowing } from './judge';
import { LogBuilder } from './log-builder.fixture';
import { sightAsHeld } from './sight';

/* Thermometers and barometers as instruments (DOMAIN 3.3, 4.6), and what the test could see as it was held. */

const clip = (due = '2027-01-01', readability = '0.1'): Thermometer => ({
  id: 'clip',
  name: 'Pipe clip',
  kind: 'digital',
  unit: 'C',
  readability,
  rangeLow: '-40',
  rangeHigh: '90',
  serial: 'C-1',
  simulated: false,
  calibration: { needed: true, last: '2025-01-01', due },
});
const baro: Gauge = { ...clip(), id: 'baro', name: 'Barometer', kind: 'barometer', unit: 'hPa', rangeLow: '500', rangeHigh: '1100' };

const planWith = (weather: { thermometer?: Thermometer; barometer?: Gauge }) => {
  const input = exampleInput(vehicleWater, '2026-11-20');
  const made = planTest({ ...input, weather, gauge: { ...input.gauge, simulated: false } });
  if (!made.ok) throw new Error(made.problems.map(({ message }) => message).join(' '));
  return made.value.plan;
};

/** The test's hold from 50 psi, with temperatures at its ends where they are given. */
function held(plan: ReturnType<typeof planWith>, end: string, temperatures?: readonly [string, string]) {
  const log = new LogBuilder(plan).tick('prepare').tick('blow-out').read('zero', 'zero', '0.0', { unit: 'psi' });
  log.at(60).read('hold', 'start', '50.0', { unit: 'psi' });
  if (temperatures !== undefined) log.at(62).figure('hold', 'start', 'temperature', temperatures[0], 'C');
  log.at(662).read('hold', 'end', end, { unit: 'psi' });
  if (temperatures !== undefined) log.at(664).figure('hold', 'end', 'temperature', temperatures[1], 'C');
  log.at(1400);
  return log;
}
const outcome = (plan: ReturnType<typeof planWith>, log: LogBuilder) => {
  const state = judge(plan, log.events).phases.find(({ id }) => id === 'hold');
  return state !== undefined && 'outcome' in state ? state.outcome : undefined;
};

test('one that the plan names is read at both ends, else the hold proves nothing', () => {
  const named = planWith({ thermometer: clip() });
  expect(outcome(named, held(named, '50.0').write({ type: 'note', text: 'Later' }))).toBe('unread');
  expect(outcome(named, held(named, '50.0', ['18.0', '18.0']))).toBe('tight');
  const none = planWith({});
  expect(outcome(none, held(none, '50.0').write({ type: 'note', text: 'Later' }))).toBe('tight');
});

test('overdue it clears nothing that the gauge shows, and that is said; what speaks against a pass still counts', () => {
  // 50 psi falls 0.9 psi as the pipe cools by four degrees: in date that is explained.
  const good = planWith({ thermometer: clip() });
  expect(outcome(good, held(good, '49.0', ['20.0', '16.0']))).toBe('tight');
  const old = planWith({ thermometer: clip('2026-01-01') });
  const log = held(old, '49.0', ['20.0', '16.0']);
  expect(outcome(old, log)).not.toBe('tight');
  const judged = judge(old, log.events);
  expect(judged.reasons.map(({ code }) => code)).toContain('weather-overdue');
  // A steady gauge on a pipe that warmed hides a fall, also on an old thermometer.
  expect(outcome(old, held(old, '50.0', ['15.0', '21.0']))).not.toBe('tight');
});

test('what the test could see follows what was read: sharper with a thermometer, worse where the pipe moved far', () => {
  const plan = planWith({});
  const sure = (temperatures?: readonly [string, string], end = '50.0') => {
    const log = held(plan, end, temperatures).write({ type: 'note', text: 'Later' });
    return Number(sightAsHeld(plan, judge(plan, log.events))[0]?.sure);
  };
  const unread = sure();
  expect(sure(['18.0', '18.0'])).toBeLessThan(unread);
  // Measuring never makes an answer worse; only what it shows may.
  expect(sure(['18', '18'])).toBe(unread);
  expect(sure(['24.0', '18.0'], '48.7')).toBeGreaterThan(sure(['18.0', '18.0']));
  expect(Number(planWith({ thermometer: clip() }).sight[0]?.sure)).toBeLessThan(Number(plan.sight[0]?.sure));
});

test('a longer watch than planned, a longer hold, and what is not held yet', () => {
  const plan = planFor({});
  const asPlanned = sightAsHeld(plan, judge(plan, []));
  expect(asPlanned.map(({ sure }) => sure)).toEqual(plan.sight.map(({ sure }) => sure));
  const log = new LogBuilder(plan).proved().settled().at(170).read('hold', 'start', '20.50').at(330).read('hold', 'end', '20.50');
  const seen = sightAsHeld(plan, judge(plan, log.events))[0];
  expect(Number(seen?.sure)).not.toBe(Number(plan.sight[0]?.sure));
});

test('beside a rise or a fall stands what the pipe would have to do for it, in gas and in water, in the trade’s unit', () => {
  const said = (plan: ReturnType<typeof planFor>, scenario: string) =>
    judge(plan, eventsFor(plan, scenario)).reasons.flatMap((one) => (one.code === 'explained-by' ? [sentenceOf(one)] : []));
  expect(said(planFor({}), 'small-leak').join(' ')).toMatch(
    /Hold: a fall of 1\.\d+ mbar is what a pipe that cools by 0\.4\d? °C makes by itself\./,
  );
  const psi = examplePlan('gas-piping-psi');
  const inPsi = judge(psi, exampleEvents(psi, 'pipework-leak')).reasons.filter(({ code }) => code === 'explained-by');
  expect(inPsi.map((one) => sentenceOf(one)).join(' ')).toMatch(/cools by [\d.]+ °F/);
  const water = examplePlan('water-isolation-hold');
  const inWater = judge(water, exampleEvents(water, 'leak')).reasons.filter(({ code }) => code === 'explained-by');
  expect(inWater.map((one) => sentenceOf(one)).join(' ')).toMatch(/cools by [\d.]+ °C/);
  // Soft pipe gives no sign, and nothing is said.
  const soft = examplePlan('water-isolation-hold', { answers: { pipe: 'PEX' } });
  expect(judge(soft, exampleEvents(soft, 'leak')).reasons.some(({ code }) => code === 'explained-by')).toBe(false);
});

test('degrees are asked for as the named thermometer shows them, else as the trade counts them', () => {
  expect(pipeDegrees(planWith({}))).toBe('F');
  expect(pipeDegrees(planFor({}))).toBe('C');
  expect(pipeDegrees(planWith({ thermometer: clip() }))).toBe('C');
  expect(pipeDegrees(planWith({ thermometer: { ...clip(), unit: 'F' } }))).toBe('F');
});

test('a barometer is no gauge, and a plan that names both keeps them', () => {
  const plan = planWith({ thermometer: clip('2027-01-01', '0.5'), barometer: baro });
  expect(plan.weather?.barometer?.id).toBe('baro');
  const hold = plan.phases.find(({ id }) => id === 'hold');
  expect(hold?.kind === 'hold' && hold.corrects).toMatchObject({ thermometerK: '0.5', barometerPa: '10' });
});

test('a log that grows is judged as one that is whole, at every length', () => {
  for (const { id } of procedures) {
    const plan = examplePlan(id);
    const whole = exampleEvents(plan, 'sound');
    const log: (typeof whole)[number][] = [];
    const judged = judgeGrowing(plan, log);
    for (const [index, event] of whole.entries()) {
      log.push(event);
      if (index % 5 === 0 || index === whole.length - 1) expect(judged()).toEqual(judge(plan, log));
    }
  }
});
