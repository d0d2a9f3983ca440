import { toText } from '../../quantities';
import { codes, tight, upToHold } from '../cases';
import { judge } from '../judge';
import { readPipeTemperature } from './warming';

describe('a pipe’s temperature as it is typed', () => {
  test.each([
    ['15', '15', 'C'],
    ['15,5', '15.5', 'C'],
    ['-3.0', '-3.0', 'C'],
    ['59 °F', '59', 'F'],
    ['288 K', '288', 'K'],
    ['86.8', '86.8', 'C'],
  ])('%s', (text, value, unit) => {
    const read = readPipeTemperature(text, 'C');
    expect(read.ok && [toText(read.value.value), read.value.unit]).toEqual([value, unit]);
  });

  test.each([
    ['900', '900 °C is not a pipe’s temperature; it must lie between -43 and 87 °C.'],
    ['86.9', '86.9 °C is not a pipe’s temperature; it must lie between -43 and 87 °C.'],
    ['-46 F', '-46 °F is not a pipe’s temperature; it must lie between -46 and 188 °F.'],
    ['20 mbar', '“mbar” is not a unit of temperature known here. Use one of °C, °F, K.'],
    ['warm', '“warm” is not a number. Type it like 20.5 or 7 1/2.'],
    ['', 'Type a figure.'],
  ])('%s is refused, with what to do', (text, message) =>
    expect(readPipeTemperature(text, 'C')).toMatchObject({ ok: false, problem: { message } }),
  );
});

describe('what the judge makes of them', () => {
  const held = () => upToHold(tight).at(170).read('hold', 'start', '20.50');
  const effect = (log: ReturnType<typeof held>) => judge(tight, log.events).reasons.find(({ code }) => code === 'temperature')?.data.effect;

  test('a pipe that cools moves the gauge down; the raw movement still decides', () => {
    const log = held().degrees('hold', 'start', '16.0').degrees('hold', 'end', '15.5').at(291).read('hold', 'end', '20.50');
    expect(effect(log)).toBe('-1.79');
    expect(judge(tight, log.events).phases.find(({ id }) => id === 'hold')?.outcome).toBe('tight');
  });

  test('only one end, or two units, say nothing', () => {
    const one = held().degrees('hold', 'start', '16.0').at(291).read('hold', 'end', '20.50');
    expect(codes(tight, one.events)).not.toContain('temperature');
    const mixed = held().degrees('hold', 'start', '16.0');
    mixed.write({
      type: 'reading',
      phase: 'hold',
      round: 1,
      role: 'end',
      quantity: 'temperature',
      value: '61',
      unit: 'F',
      typed: '61',
      source: 'keypad',
    });
    expect(codes(tight, mixed.at(291).read('hold', 'end', '20.50').events)).not.toContain('temperature');
  });

  test('one that was withdrawn in time counts for nothing; the judgement names it', () => {
    const log = held().degrees('hold', 'start', '61.0');
    const wrong = log.lastId;
    log.write({ type: 'withdrawn', reading: wrong, reason: 'read in Fahrenheit' }).degrees('hold', 'start', '16.0');
    log.degrees('hold', 'end', '16.0').at(291).read('hold', 'end', '20.50');
    expect(effect(log)).toBe('0.00');
    expect(judge(tight, log.events).withdrawn).toEqual([wrong]);
  });
});
