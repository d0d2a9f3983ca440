import { readdirSync, readFileSync } from 'node:fs';
import { canonical } from '@/core/exact';
import { judge, lists } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { procedures } from '@/core/procedures';
import { attemptsOf } from '@/core/record';
import { exampleDay } from '@/core/simulation/examples.fixture';
import { simulatedRecord } from '../../cli/simulate';
import { readRecord } from './reader';

const format = readFileSync('docs/record-format.md', 'utf8').replace(/ +/g, ' ');

test('every reason code stands in the record format with its weight', () => {
  for (const [code, { weight }] of lists.flatMap((list) => Object.entries(list))) expect(format).toContain(`\`${code}\` | ${weight}`);
});

test('every event type and every field of the schema is named there', () => {
  const schema = readFileSync('docs/record.schema.json', 'utf8');
  const names = new Set(
    [...schema.matchAll(/"([a-zA-Z]+)": \{/g)]
      .map(([, name]) => name)
      .filter((name) => !['properties', 'items', 'additionalProperties', 'discriminator', 'type'].includes(name)),
  );
  expect(names.size).toBeGreaterThan(60);
  for (const name of names) expect({ name, named: new RegExp(`\\b${name}\\b`).test(format) }).toEqual({ name, named: true });
});

const files = readdirSync('docs/examples').filter((file) => file.endsWith('.json'));

describe('the examples', () => {
  test('there is one for every procedure, and the simulation makes each of them anew', () => {
    expect(files.sort()).toEqual(procedures.map(({ id }) => `${id}.json`).sort());
    for (const { id, example } of procedures)
      expect(`${JSON.stringify(simulatedRecord(id, example.fault ?? 'sound', 3), null, 1)}\n`).toBe(
        readFileSync(`docs/examples/${id}.json`, 'utf8'),
      );
  });

  test.each(files)('%s is read, and judged as it says', (file) => {
    const read = readRecord(readFileSync(`docs/examples/${file}`, 'utf8'));
    if (!read.ok) throw new Error(read.problem.message);
    for (const { plan, events, judgement } of attemptsOf(read.value)) expect(canonical(judge(plan, events))).toBe(canonical(judgement));
  });

  test('the small record that the format tells how to write by hand is a pass', () => {
    const read = readRecord(readFileSync('docs/examples/domestic-gas-millibar.json', 'utf8'));
    if (!read.ok) throw new Error(read.problem.message);
    const { plan } = attemptsOf(read.value)[0];
    const log = new LogBuilder(plan, 'device-1', exampleDay).proved().settled().held('20.50', '20.50').at(300).tick('restore');
    const text = JSON.stringify({
      format: 'vast-stone-record',
      version: 1,
      tests: [{ attempts: [{ run: log.events[0].run, number: 1, plan, events: log.events }] }],
    });
    const again = readRecord(text);
    expect(again.ok && attemptsOf(again.value).map((one) => judge(one.plan, one.events).verdict)).toEqual(['pass']);
  });
});
