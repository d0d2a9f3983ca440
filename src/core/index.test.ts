import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as core from '.';

/* The examples of the face are run as they stand: every line that ends in `// → value` must give that value. */

const text = readFileSync(join(import.meta.dirname, 'index.ts'), 'utf8');
const examples = [...text.matchAll(/```ts\n([\s\S]*?)\* ```/g)].map(([, code]) => code.replace(/^ \* ?/gm, ''));

test('there are examples', () => expect(examples.length).toBeGreaterThan(4));

test.each(examples.map((code, index) => [index + 1, code] as const))('example %d', (_, code) => {
  const asserted = code
    .split('\n')
    .map((line) => {
      const found = /^(.*\S)\s+\/\/ → (.*)$/.exec(line);
      return found === null ? line : `same(${found[1]}, ${found[2]});`;
    })
    .join('\n');
  let compared = 0;
  const same = (value: unknown, expected: unknown) => {
    compared += 1;
    expect(value).toEqual(expected);
  };
  new Function(...Object.keys(core), 'same', asserted)(...Object.values(core), same);
  expect(compared).toBeGreaterThan(0);
});
