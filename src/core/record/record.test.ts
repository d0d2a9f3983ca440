import { createHash, generateKeyPairSync, sign, verify } from 'node:crypto';
import fc from 'fast-check';
import { canonical } from '../exact/canonical';
import { sha256, sha256Bytes } from '../exact/hash';
import { judge } from '../judging/judge';
import { eventsFor, fixtureRun, planFor } from '../simulation/examples.fixture';
import { csvCell, readingsCsv } from './csv';
import { readRecord } from './read';
import { recordFormat, recordVersion, type TestRecord } from './record';
import { checkSeal, fingerprint, noSealBefore, recordHash, sealMessage } from './seal';

describe('SHA-256', () => {
  test.each([
    ['', 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'],
    ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
  ])('of %j', (text, expected) => expect(sha256(text)).toBe(expected));

  test('agrees with another implementation on any bytes, at every length about a block', () => {
    for (let length = 0; length < 200; length += 1) {
      const bytes = new Uint8Array(length).map((_, index) => (index * 7 + length) & 255);
      expect(sha256Bytes(bytes)).toBe(createHash('sha256').update(bytes).digest('hex'));
    }
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), (text) => sha256(text) === createHash('sha256').update(text).digest('hex')));
  });
});

describe('canonical form (RFC 8785)', () => {
  test('keys sorted by UTF-16 units, no spaces, nothing that engines print differently', () => {
    expect(canonical({ b: [1, -0, true, null], a: 'x\n', é: 1, Z: { y: 2, x: undefined } })).toBe(
      '{"Z":{"y":2},"a":"x\\n","b":[1,0,true,null],"é":1}',
    );
  });
  test('fractions, NaN and functions are refused', () => {
    for (const value of [0.1, Number.NaN, Number.POSITIVE_INFINITY, 2 ** 60]) expect(() => canonical({ value })).toThrow(RangeError);
    expect(() => canonical(() => 1)).toThrow(TypeError);
  });
  test('parsing and printing it again changes nothing', () => {
    fc.assert(
      fc.property(
        fc.object({ values: [fc.string(), fc.integer(), fc.boolean(), fc.constant(null)] }),
        (value) => canonical(JSON.parse(canonical(value))) === canonical(value),
      ),
    );
  });
});

const plan = planFor({});
const events = eventsFor(plan, 'small-leak');
const body: TestRecord = {
  format: 'vast-stone-record',
  version: 1,
  firm: { name: 'A firm' },
  tests: [{ attempts: [{ run: fixtureRun, number: 1, plan, events, judgement: judge(plan, events) }] }],
};

function sealed(record: TestRecord) {
  const pair = generateKeyPairSync('ed25519');
  const publicKey = pair.publicKey.export({ type: 'spki', format: 'der' }).subarray(12).toString('base64');
  const about = { hash: recordHash(record), keyId: 'k', previous: noSealBefore, sealedAt: 1 };
  const seal = {
    algorithm: 'ed25519' as const,
    publicKey,
    signature: sign(null, Buffer.from(sealMessage(about)), pair.privateKey).toString('base64'),
    ...about,
  };
  const check = (_: string, message: string, signature: string) =>
    Buffer.from(signature, 'base64').toString('base64') === signature &&
    verify(null, Buffer.from(message), pair.publicKey, Buffer.from(signature, 'base64'));
  return { record: { ...record, seal }, publicKey, check };
}

describe('the seal', () => {
  const { record, publicKey, check } = sealed(body);
  const known = [{ fingerprint: fingerprint(publicKey), revoked: false }];

  test('genuine, unknown signer, revoked key, none', () => {
    expect(checkSeal(record, known, check)).toBe('genuine');
    expect(checkSeal(record, [], check)).toBe('intact, signer unknown');
    expect(checkSeal(record, [{ ...known[0], revoked: true }], check)).toBe('key revoked');
    expect(checkSeal(body, known, check)).toBe('not sealed');
  });

  test('any change of any text in the record is seen', () => {
    const text = JSON.stringify(record);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: text.length - 1 }), (place) => {
        const digit = text[place];
        if (!/[0-9]/.test(digit) || /"seal"/.test(text.slice(Math.max(0, place - 8), place))) return true;
        let changed: TestRecord;
        try {
          changed = JSON.parse(`${text.slice(0, place)}${(Number(digit) + 1) % 10}${text.slice(place + 1)}`);
        } catch {
          return true;
        }
        return canonical(changed) === canonical(record) || checkSeal(changed, known, check) !== 'genuine';
      }),
      { numRuns: 300 },
    );
  });
});

describe('readings as CSV', () => {
  test('every reading and every sample of a trace, dot decimals, UTC', () => {
    const csv = readingsCsv(body, (ms) => new Date(ms).toISOString()).split('\r\n');
    const readings = events.filter(({ type }) => type === 'reading').length;
    const samples = events.reduce((sum, event) => sum + (event.type === 'trace' ? event.values.length : 0), 0);
    expect(csv).toHaveLength(readings + samples + 2);
    expect(csv[1]).toMatch(/^1,1,zero,1,zero,pressure,,\d{4}-\d\d-\d\dT.*Z,,0\.00,mbar,,simulated gauge,T-1,[0-9a-f-]{36},$/);
  });
  test.each([
    ['=1+1', "'=1+1"],
    ['-0.50', '-0.50'],
    ['-x', "'-x"],
    ['a,b', '"a,b"'],
    ['say "x"', '"say ""x"""'],
    [' =1+1', "' =1+1"],
    ['\u3000＝1+1', "'\u3000＝1+1"],
    ['＋1', "'＋1"],
    [';=1', '";=1"'],
    ['−5', "'−5"],
    ['a ', '"a "'],
  ])('%s becomes %s', (from, to) => expect(csvCell(from)).toBe(to));
});

test('an event that stands in a record twice is no record', () => {
  const plan = planFor({});
  const events = eventsFor(plan, 'sound').slice(0, 5);
  const record = (list: typeof events) => ({
    format: recordFormat,
    version: recordVersion,
    tests: [{ attempts: [{ run: events[0].run, number: 1, plan, events: list }] }],
  });
  expect(readRecord(record(events)).ok).toBe(true);
  expect(readRecord(record([...events, events[2]]))).toMatchObject({ ok: false, problem: { message: expect.stringContaining('twice') } });
  expect(readRecord({}).ok).toBe(false);
});
