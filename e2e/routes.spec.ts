import { randomUUID } from 'node:crypto';
import { addressOf, may, type Role, type RouteKey, routeOf, routes } from '../src/core/permissions';
import { making } from '../src/core/register';
import { type App, asPage, expect, registerOf, signIn, test } from './app';

/* Who may what, tried through HTTP for every row of the table of routes: each role of the own firm, another firm, and nobody. */

const people = { technician: 'iola', supervisor: 'wren', office: 'pernilla' } as const satisfies Record<Role, string>;
const keys = (Object.keys(routes) as RouteKey[]).filter((key) => !key.includes('test-clock') && !key.includes('sign-'));

interface Ids {
  readonly [key: string]: Readonly<Record<string, string>>;
}

/** What is theirs: an id for every part that an address can have. */
async function idsOf(app: App, context: Awaited<ReturnType<App['context']>>): Promise<Ids> {
  const along = await registerOf(app, context);
  const [{ siteId, id: systemId }] = along.systems;
  const made = await context.request.post('/api/field/sync', asPage(app, { items: [] }));
  expect(made.ok()).toBe(true);
  const certificates = await (await context.request.get('/certificates')).text();
  const certificate = /certificate=([0-9a-f-]{36})/.exec(certificates)?.[1] ?? randomUUID();
  return {
    site: { id: siteId },
    system: { id: systemId },
    test: { id: along.histories[0].test },
    instrument: { id: along.instruments[0].id },
    certificate: { id: certificate },
    own: { id: along.ownProcedures[0].id },
    photo: { hash: 'a'.repeat(64) },
    person: { id: along.people[0].id },
  };
}

function partsOf(key: RouteKey, ids: Ids): Readonly<Record<string, string>> {
  if (key.includes('/clashes/[id]')) return { id: randomUUID() };
  if (key.includes('/instruments/[id]')) return ids.instrument;
  if (key.includes('/own-procedures/[id]')) return ids.own;
  if (key.includes('/certificates/[id]')) return ids.certificate;
  if (key.includes('/tests/[id]')) return ids.test;
  if (key.includes('[token]')) return { token: 'x'.repeat(32), hash: 'a'.repeat(64) };
  if (key.includes('/people/[id]')) return { id: ids.person.id };
  if (key.includes('[code]')) return { code: 'AAAAAAAAAA' };
  if (key.includes('/follow-ups/[id]')) return { id: randomUUID() };
  if (['/messages/[id]', '/tokens/[id]', '/exchange/[id]'].some((one) => key.includes(one))) return { id: randomUUID() };
  if (key.includes('[list]')) return { list: 'sites' };
  if (key.includes('/run/[id]')) return { id: randomUUID() };
  return ids.photo;
}

test('every route asks who comes and what they may, firm by firm', async ({ app, browser }) => {
  test.setTimeout(180_000);
  const signedIn = async (who: string) => {
    const context = await app.context(browser);
    await signIn(context, who);
    return context;
  };
  const wren = await signedIn('wren');
  const ids = await idsOf(app, wren);
  const nobody = await app.context(browser);
  const ruben = await signedIn('ruben');
  const absent: Ids = Object.fromEntries(Object.keys(ids).map((one) => [one, { id: randomUUID(), hash: 'b'.repeat(64) }]));
  const ask = async (context: typeof wren, key: RouteKey, of: Ids = ids) => {
    // A stream never ends by itself: its head is enough.
    if (key === 'GET /api/stream') {
      const ending = new AbortController();
      const { cookies } = await context.storageState();
      const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
      const head = await fetch(`${app.url}${addressOf(key)}`, { headers: { cookie }, signal: ending.signal });
      ending.abort();
      return {
        status: () => head.status,
        headers: () => Object.fromEntries(head.headers),
        json: async () => ({}) as { problem?: { code: string } },
      };
    }
    const address = addressOf(key, partsOf(key, of));
    // Nothing that could be done: who is refused is told before what was sent is looked at.
    return key.startsWith('GET ') ? context.request.get(address) : context.request.post(address, asPage(app, {}));
  };

  for (const key of keys) {
    const row = routeOf(key);
    const answered = await ask(nobody, key);
    // Also what is answered before the application sees it.
    expect([key, answered.headers()['x-content-type-options']]).toEqual([key, 'nosniff']);
    const without = answered.status();
    if (row.who === 'anyone') expect([key, [401, 403].includes(without)]).toEqual([key, false]);
    else expect([key, without]).toEqual([key, 401]);
  }

  for (const [role, who] of Object.entries(people) as [Role, string][]) {
    const context = await signedIn(who);
    for (const key of keys) {
      const { who: action } = routeOf(key);
      if (action === 'anyone') continue;
      const response = await ask(context, key);
      // What is read by a token is read by no session.
      if (action === 'token') {
        expect([key, role, response.status()]).toEqual([key, role, 401]);
        continue;
      }
      const refused = response.status() === 403;
      expect([key, role, refused]).toEqual([key, role, !may(role, action)]);
      if (refused) expect((await response.json()).problem?.code).toBe('not-allowed');
    }
  }

  // Whatever names a thing of the first firm answers as for a thing that is nowhere.
  for (const key of keys.filter((one) => one.includes('[') && routeOf(one).who !== 'token')) {
    const [theirs, nobodys] = [await ask(ruben, key), await ask(ruben, key, absent)];
    expect([key, theirs.status(), await theirs.json()]).toEqual([key, nobodys.status(), await nobodys.json()]);
    expect([400, 403, 404]).toContain(theirs.status());
  }
});

test('a write from another site, without an id, or twice with other content is refused; twice with the same it is done once', async ({
  app,
  browser,
}) => {
  const context = await app.context(browser);
  await signIn(context, 'wren');
  const address = addressOf('POST /api/things');
  const name = `Twice ${Date.now()}`;
  const made = (said: object, id = randomUUID()) => ({ changes: [making('site', id, said)] });
  const site = made({ name, address: '1 Quay Road' });
  for (const origin of ['https://elsewhere.invalid', 'null'])
    expect((await context.request.post(address, { data: site, headers: { origin, 'command-id': randomUUID() } })).status()).toBe(403);
  const without = await context.request.post(address, { data: site, headers: { origin: app.url } });
  expect((await without.json()).problem.code).toBe('no-command-id');

  const sent = asPage(app, site);
  const answers = await Promise.all([1, 2, 3, 4].map(async () => (await context.request.post(address, sent)).json()));
  expect(new Set(answers.map(([{ id }]) => id)).size).toBe(1);
  const other = await context.request.post(address, { ...sent, data: made({ name, address: '2 Quay Road' }) });
  expect([other.status(), (await other.json()).problem.code]).toEqual([409, 'command-differs']);
  const listed = await (await context.request.get('/sites')).text();
  expect(listed.split(`>${name}<`).length).toBeLessThanOrEqual(3);

  for (const [data, code] of [
    [made({ name: 'a\u0000b', address: 'x' }), 'unstorable'],
    [made({ name: { toString: 1 }, address: 'x' }), 'form'],
    [{ changes: 'x'.repeat(300_000) }, 'too-large'],
  ] as const)
    expect((await (await context.request.post(address, asPage(app, data))).json()).problem.code).toBe(code);
});

test('what cannot be a body ends at the door: too long without a length, too deep, half a symbol', async ({ app }) => {
  const ask = (body: BodyInit, path = '/api/sign-in') =>
    fetch(`${app.url}${path}`, { method: 'POST', body, duplex: 'half', headers: { origin: app.url } } as RequestInit);
  for (const [path, status] of [
    ['/api/sign-in', 413],
    // Pages take nothing.
    ['/today', 405],
  ] as const) {
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull: (controller) => {
        sent += 1;
        if (sent > 4000) controller.close();
        else controller.enqueue(new Uint8Array(100_000));
      },
    });
    const answer = await ask(endless, path).then(
      (response) => response.status,
      () => status,
    );
    expect(answer).toBe(status);
    expect(sent).toBeLessThan(400);
  }
  expect((await ask('{}', '/today')).status).toBe(405);
  // Who signs in gets a cookie that no script reads, and nothing in the answer to keep.
  const signedIn = await ask('{"email":"wren@lindqvay.invalid","password":"harbour-demo-1"}');
  const session = signedIn.headers.getSetCookie().find((one) => /session/.test(one)) ?? '';
  expect(session).toMatch(/HttpOnly/i);
  const token = /=([^;.%]{10,})/.exec(session)?.[1] ?? 'none';
  expect(token.length).toBeGreaterThan(10);
  expect(await signedIn.text()).not.toContain(token);
  expect((await ask(`{"email":${'['.repeat(1900)}`)).status).toBe(400);
  expect((await ask('{"email":"\\ud83d","password":"x"}')).status).toBe(400);
  expect((await fetch(`${app.url}/api/metrics`)).status).toBe(404);
});
