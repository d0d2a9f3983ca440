import { answer, notFound, refuse } from './answers';
import { jsonOf, withBody } from './body';
import { download, isOwnPage, ownOrigins, written } from './door';

process.env.VAST_ADDRESS = 'https://tests.example';

test('every answer has its status, a problem its words and its field, and nothing of it is kept on the way', () => {
  for (const [result, status] of [
    [{ ok: true, value: { a: 1 } }, 200],
    [notFound, 404],
    [refuse(403, 'not-allowed', 'No.'), 403],
    [refuse(400, 'form', 'Give a name.', 'name'), 400],
    [refuse(409, 'already', 'There already.'), 409],
    [refuse(413, 'large', 'Too large.'), 413],
    [refuse(429, 'throttled', 'Wait.'), 429],
  ] as const) {
    const response = written(result);
    expect(response.status).toBe(status);
    expect(response.headers['cache-control']).toBe('private, no-store');
  }
  expect(JSON.parse(written(refuse(400, 'form', 'Give a name.', 'name')).body)).toEqual({
    problem: { code: 'form', message: 'Give a name.', field: 'name' },
  });
  expect(JSON.parse(written({ ok: true, value: undefined }).body)).toBeNull();
});

describe('a write', () => {
  const from = (headers: Record<string, string>) => isOwnPage(new Request('http://inside:3000/api/x', { method: 'POST', headers }));
  test.each([
    ['our own page', { origin: 'https://tests.example' }, true],
    ['our own page through a proxy that names itself', { origin: 'https://tests.example', host: 'inside:3000' }, true],
    ['another site', { origin: 'https://elsewhere.example' }, false],
    ['another site that calls itself the host', { origin: 'http://inside:3000', host: 'inside:3000' }, false],
    ['another port of the same machine', { origin: 'https://tests.example:81' }, false],
    ['a page without an origin', { origin: 'null' }, false],
    ['no origin, from a program', {}, true],
    ['no origin, and the browser says another site', { 'sec-fetch-site': 'cross-site' }, false],
    ['no origin, and the browser says a neighbour', { 'sec-fetch-site': 'same-site' }, false],
    ['no origin, and the browser says ours', { 'sec-fetch-site': 'same-origin' }, true],
  ] as const)('from %s', (_, headers, allowed) => expect(from(headers)).toBe(allowed));
  test('on this machine the names of the loopback are one', () =>
    expect(ownOrigins('http://127.0.0.1:3000')).toEqual(['http://127.0.0.1:3000', 'http://localhost:3000', 'http://[::1]:3000']));
});

describe('a body', () => {
  const sent = (body: BodyInit, headers: Record<string, string> = {}) =>
    new Request('http://x/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
  const read = (request: Request, most = 100) => withBody(request, most, async (body) => answer(body.length));

  test('within its size is read, and one byte more is not', async () => {
    expect(await read(sent('a'.repeat(100)))).toEqual({ ok: true, value: 100 });
    expect(await read(sent('a'.repeat(101)))).toMatchObject({ ok: false, status: 413 });
  });
  test('that says it is larger is refused unread', async () => {
    let pulled = 0;
    const stream = new ReadableStream(
      {
        pull: () => {
          pulled += 1;
        },
      },
      { highWaterMark: 0 },
    );
    expect(await read(sent(stream, { 'content-length': '1000000' }))).toMatchObject({ ok: false, status: 413 });
    expect(pulled).toBe(0);
  });
  test('without a length ends with the first piece too many', async () => {
    let pulled = 0;
    const stream = new ReadableStream({
      pull: (controller) => {
        pulled += 1;
        controller.enqueue(new Uint8Array(60));
      },
    });
    expect(await read(sent(stream))).toMatchObject({ ok: false, status: 413 });
    expect(pulled).toBeLessThan(6);
  });
  test('more than can be held at once is asked to come back', async () => {
    const large = 60 * 1024 * 1024;
    const waiting = withBody(sent(new ReadableStream({}), { 'content-length': String(large) }), large, async () => answer(0));
    expect(await read(sent(new ReadableStream({})), large)).toMatchObject({ ok: false, status: 503, retryAfter: 3 });
    void waiting;
  });
  test.each([
    ['an object', '{"a":1}', true],
    ['empty', '', true],
    ['a list', '[1]', false],
    ['nothing', 'null', false],
    ['a text', '"a"', false],
    ['broken', '{"a"', false],
    ['with a character that no place keeps', '{"a":{"b":"x\\u0000"}}', false],
    ['with half a symbol', '{"a":"\\ud83d"}', false],
    ['with a whole symbol', '{"a":"\\ud83d\\udd25"}', true],
    ['with half a symbol for a name', '{"\\udd25":1}', false],
    ['nested too deep', `{"a":${'['.repeat(200_000)}${']'.repeat(200_000)}}`, false],
    ['with a text of two million letters', `{"a":"${'b'.repeat(2_000_000)}"}`, false],
  ])('of JSON that is %s', (_, body, ok) => expect(jsonOf(Buffer.from(body)).ok).toBe(ok));
  test('names the field at fault', () =>
    expect(jsonOf(Buffer.from('{"name":"fine","address":"x\\u0000"}'))).toMatchObject({
      problem: { code: 'unstorable', field: 'address' },
    }));
});

test('a download is never stored by what lies between', () => {
  const { headers } = download('a', 'text/csv', 'readings.csv');
  expect([headers.get('cache-control'), headers.get('content-disposition')]).toEqual([
    'private, no-store',
    'attachment; filename="readings.csv"',
  ]);
  expect(download('a', 'application/pdf', 'c.pdf', true).headers.get('content-disposition')).toMatch(/^inline/);
});
