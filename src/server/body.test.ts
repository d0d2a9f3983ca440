import { answer } from './answers';
import { jsonOf, withBody } from './body';

/* What is too much is refused before it is held, whatever it says of itself. */

/** A body that comes piece by piece; tells how many pieces were taken. */
function sending(pieces: number, size: number, headers: Record<string, string> = {}) {
  let taken = 0;
  const body = new ReadableStream<Uint8Array>(
    {
      pull(controller) {
        if (taken === pieces) return controller.close();
        taken += 1;
        controller.enqueue(new Uint8Array(size));
      },
    },
    { highWaterMark: 0 },
  );
  const request = new Request('http://here.invalid/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
  return { request, taken: () => taken };
}

const length = async (body: Buffer) => answer(body.length);

test('what fits is handed on whole', async () => {
  const { request } = sending(4, 25);
  expect(await withBody(request, 100, length)).toEqual(answer(100));
  expect(await withBody(new Request('http://here.invalid/'), 100, length)).toEqual(answer(0));
});

test.each([
  ['says nothing of its length', {}],
  ['says that it is short', { 'content-length': '10' }],
])('a stream without end that %s is left at the first piece too many', async (_, headers: Record<string, string>) => {
  const { request, taken } = sending(1_000_000, 30, headers);
  expect(await withBody(request, 100, length)).toMatchObject({ ok: false, status: 413 });
  expect(taken()).toBe(4);
});

test('one that says itself that it is too long is not read at all', async () => {
  const { request, taken } = sending(10, 30, { 'content-length': '300' });
  expect(await withBody(request, 100, length)).toMatchObject({ ok: false, status: 413 });
  expect(taken()).toBe(0);
});

test('many large ones at once are asked to come again, and there is room as soon as they are done', async () => {
  const most = 20 * 1024 * 1024;
  let release = () => {};
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  const works = Array.from({ length: 6 }, () =>
    withBody(sending(1, 10).request, most, async (body) => {
      await held;
      return answer(body.length);
    }),
  );
  const refused = await Promise.race(works);
  expect(refused).toMatchObject({ ok: false, status: 503, retryAfter: 3 });
  release();
  const all = await Promise.all(works);
  expect(all.filter((one) => 'ok' in one && one.ok)).toHaveLength(4);
  expect(await withBody(sending(1, 10).request, most, length)).toEqual(answer(10));
});

test('long ones share what is read a second; short ones pass them by', async () => {
  const [most, piece] = [20 * 1024 * 1024, 256 * 1024];
  const from = performance.now();
  const took = async (pieces: number) => {
    await withBody(sending(pieces, piece).request, most, length);
    return performance.now() - from;
  };
  // 5 MB each, of which 4 are paced at 24 MB/s.
  const [one, other, short] = await Promise.all([took(20), took(20), took(2)]);
  expect(Math.max(one, other)).toBeGreaterThan(320);
  expect(short).toBeLessThan(150);
});

test.each([
  ['', { ok: true, value: {} }],
  ['{"a":1}', { ok: true, value: { a: 1 } }],
  ['[1]', { ok: false, problem: { code: 'not-json' } }],
  ['null', { ok: false, problem: { code: 'not-json' } }],
  ['{"a":', { ok: false, problem: { code: 'not-json' } }],
  ['{"a":"b\\u0000"}', { ok: false, problem: { code: 'unstorable', field: 'a' } }],
  ['{"a":"b\\ud800"}', { ok: false, problem: { code: 'unstorable' } }],
  [`{"a":${'['.repeat(60)}${']'.repeat(60)}}`, { ok: false }],
  [`{"a":"${'x'.repeat(100_001)}"}`, { ok: false, problem: { code: 'too-long' } }],
])('JSON %.20s', (text, expected) => {
  expect(jsonOf(Buffer.from(text))).toMatchObject(expected);
});

test('a sending’s texts are left to whoever looks at each of its parts', () => {
  expect(jsonOf(Buffer.from('{"items":["b\\u0000"]}'), true)).toMatchObject({ ok: true });
});
