import { at } from './clock';
import { health, stopLooking } from './health';
import { openTestFirm } from './test-firm.fixture';

/* Whether the server says of itself what an operator has to see to. */

const firm = await openTestFirm('health');
afterAll(async () => {
  await stopLooking();
  await firm.close();
});

/** The time by which it knows how old its answers are is moved by hand. */
let passed = 0;
const running = performance.now.bind(performance);
performance.now = () => running() + passed;
afterAll(() => {
  performance.now = running;
});

/** What it says once its last answer is too old to be told. */
const look = () => {
  passed += 2000;
  return at(Date.now(), health);
};
const set = (name: string, value: string | undefined) => {
  const before = process.env[name];
  if (value === undefined) delete process.env[name];
  else process.env[name] = value;
  return () => {
    if (before === undefined) delete process.env[name];
    else process.env[name] = before;
  };
};

test.each([
  ['a full disk', 'VAST_LEAST_FREE_MB', '999999999', /The disk is nearly full: \d+ MB are left/],
  ['a short seal secret', 'VAST_SEAL_SECRET', 'c2hvcnQ=', /VAST_SEAL_SECRET must be the base64 of 32 bytes/],
  ['no secret at all', 'VAST_AUTH_SECRET', undefined, /VAST_AUTH_SECRET is not set/],
  [
    'another installation’s secret',
    'VAST_SEAL_SECRET',
    Buffer.from(Array.from({ length: 32 }, (_, index) => 255 - index)).toString('base64'),
    /not those that this database was made with/,
  ],
])('%s is not ready', async (_, name, value, words) => {
  expect(await look()).toEqual({ ready: true, faults: [] });
  const back = set(name, value);
  try {
    expect(await look()).toEqual({ ready: false, faults: [expect.stringMatching(words)] });
  } finally {
    back();
  }
  expect(await look()).toEqual({ ready: true, faults: [] });
});

test('while it is looked anew the last answer stands for a second; then whoever asks waits for the look', async () => {
  expect(await look()).toEqual({ ready: true, faults: [] });
  const back = set('VAST_HOME', '/nowhere/at/all');
  try {
    passed += 300;
    expect(await health()).toEqual({ ready: true, faults: [] });
    expect(await look()).toEqual({ ready: false, faults: [expect.stringMatching(/The disk cannot be looked at/)] });
  } finally {
    back();
  }
  expect(await look()).toEqual({ ready: true, faults: [] });
});
