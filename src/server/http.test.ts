import { forbidden, notFound, refuse } from './answers';
import { download, jsonBody, respond, sameOrigin } from './http';

const post = (headers: Record<string, string>, body = '{}') => new Request('http://tests.example/api/x', { method: 'POST', headers, body });

test('every answer has its status, and a problem its words and its field', async () => {
  for (const [result, status] of [
    [{ ok: true, value: { a: 1 } }, 200],
    [notFound, 404],
    [forbidden('No.'), 403],
    [refuse(400, 'form', 'Give a name.', 'name'), 400],
    [refuse(409, 'already', 'There already.'), 409],
    [refuse(413, 'large', 'Too large.'), 413],
    [refuse(429, 'throttled', 'Wait.'), 429],
  ] as const)
    expect(respond<unknown>(result).status).toBe(status);
  expect(await respond(refuse(400, 'form', 'Give a name.', 'name')).json()).toEqual({
    problem: { code: 'form', message: 'Give a name.', field: 'name' },
  });
  expect(await respond({ ok: true, value: undefined }).json()).toBeNull();
});

test.each([
  ['our own page', { origin: 'http://tests.example', host: 'tests.example' }, true],
  ['another site', { origin: 'http://elsewhere.example', host: 'tests.example' }, false],
  ['another port of the same machine', { origin: 'http://tests.example:81', host: 'tests.example' }, false],
  ['no origin, from a program', { host: 'tests.example' }, true],
  ['no origin, and the browser says another site', { host: 'tests.example', 'sec-fetch-site': 'cross-site' }, false],
] as const)('a write from %s', (_, headers, allowed) => expect(sameOrigin(post(headers))).toBe(allowed));

test.each([
  ['an object', '{"a":1}', true],
  ['a list', '[1]', false],
  ['nothing', 'null', false],
  ['a text', '"a"', false],
  ['broken', '{"a"', false],
  ['empty', '', false],
])('a body that is %s', async (_, body, ok) => {
  const read = await jsonBody(post({}, body));
  expect(read.ok).toBe(ok);
  if (!read.ok) expect(read.response.status).toBe(400);
});

test('a download is never stored by what lies between', () => {
  const { headers } = download('a', 'text/csv', 'readings.csv');
  expect([headers.get('cache-control'), headers.get('content-disposition')]).toEqual([
    'private, no-store',
    'attachment; filename="readings.csv"',
  ]);
  expect(download('a', 'application/pdf', 'c.pdf', true).headers.get('content-disposition')).toMatch(/^inline/);
});
