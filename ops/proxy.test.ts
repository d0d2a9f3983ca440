import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { join } from 'node:path';
import { freePort, installation, root, type Started } from './installation.fixture';

/* The reverse proxy's configuration and the unit file that are shipped, tried. */

const { place, start, close } = installation('proxy');
const name = 'tests.example';
let server: Started;
let proxy: ReturnType<typeof spawn>;
let tlsPort = 0;
let certificate = '';

beforeAll(async () => {
  tlsPort = await freePort();
  const appPort = await freePort();
  const [crt, key] = [join(place, 'tests.example.crt'), join(place, 'tests.example.key')];
  const made = spawnSync('openssl', [
    ...['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes', '-days', '2', '-subj', `/CN=${name}`],
    ...['-addext', `subjectAltName=DNS:${name}`, '-keyout', key, '-out', crt],
  ]);
  expect(made.status).toBe(0);
  certificate = readFileSync(crt, 'utf8');
  const shipped = readFileSync(join(root, 'ops', 'nginx.conf'), 'utf8')
    .replaceAll('/etc/ssl/', `${place}/`)
    .replaceAll('127.0.0.1:3000', `127.0.0.1:${appPort}`)
    .replaceAll('listen 443 ssl', `listen 127.0.0.1:${tlsPort} ssl`)
    .replaceAll('listen 80', `listen 127.0.0.1:${await freePort()}`);
  mkdirSync(join(place, 'tmp'));
  const whole = `daemon off; pid ${place}/nginx.pid; error_log ${place}/nginx.log; events {}
http { access_log off; proxy_bind 127.0.0.9; client_body_temp_path ${place}/tmp/a; proxy_temp_path ${place}/tmp/b; fastcgi_temp_path ${place}/tmp/c; uwsgi_temp_path ${place}/tmp/d; scgi_temp_path ${place}/tmp/e;
${shipped}}`;
  writeFileSync(join(place, 'nginx.conf'), whole);
  server = await start({ PORT: String(appPort), VAST_ADDRESS: `https://${name}:${tlsPort}`, VAST_PROXIES: '127.0.0.9' });
  expect(server.said()).toContain(`Vast Stone is at https://${name}:${tlsPort}`);
  const asWorker = process.getuid?.() === 0 ? ['-g', 'user root;'] : [];
  proxy = spawn('nginx', ['-c', join(place, 'nginx.conf'), ...asWorker], { stdio: 'ignore' });
  for (let look = 0; look < 50; look += 1) {
    if ((await ask('GET', '/api/health').catch(() => undefined))?.status === 200) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(readFileSync(join(place, 'nginx.log'), 'utf8'));
}, 180_000);

afterAll(async () => {
  proxy?.kill('SIGTERM');
  await close();
}, 60_000);

interface Said {
  readonly status: number;
  readonly headers: Readonly<Record<string, string | readonly string[] | undefined>>;
  readonly text: string;
}

const ask = (method: string, path: string, headers: Record<string, string> = {}, body: string | Buffer = ''): Promise<Said> =>
  new Promise((resolve, reject) => {
    const asking = request(
      {
        host: '127.0.0.1',
        port: tlsPort,
        servername: name,
        ca: certificate,
        method,
        path,
        headers: { host: `${name}:${tlsPort}`, ...headers },
      },
      (response) => {
        let text = '';
        response.on('data', (part) => {
          text += part;
        });
        response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, text }));
      },
    );
    asking.on('error', reject);
    asking.end(body);
  });

const own = () => ({ origin: `https://${name}:${tlsPort}`, 'content-type': 'application/json' });

test('a page and its sign-in work through it, by its own address only, and cookies are for TLS alone', async () => {
  expect((await ask('GET', '/sign-in')).status).toBe(200);
  const [, email, password] = /Sign in as (\S+) with the password (\S+) /.exec(server.said()) ?? [];
  const body = JSON.stringify({ email, password });
  const entered = await ask('POST', '/api/sign-in', own(), body);
  expect(entered.status).toBe(200);
  expect(entered.headers['strict-transport-security']).toMatch(/max-age/);
  const cookies = [entered.headers['set-cookie']].flat().map(String);
  expect(cookies.length).toBeGreaterThanOrEqual(2);
  for (const one of cookies) expect(one).toMatch(/; Secure/i);
  const cookie = cookies.map((one) => one.split(';')[0]).join('; ');
  expect((await ask('GET', '/api/field/search?words=x', { cookie })).status).toBe(200);
  for (const origin of ['https://elsewhere.example', `http://127.0.0.1:${server.port}`, 'null'])
    expect((await ask('POST', '/api/sign-in', { ...own(), origin }, body)).status).toBe(403);
});

test('a stream of events comes through it line by line, while it is open', async () => {
  const [, email, password] = /Sign in as (\S+) with the password (\S+) /.exec(server.said()) ?? [];
  const entered = await ask('POST', '/api/sign-in', own(), JSON.stringify({ email, password }));
  const cookie = [entered.headers['set-cookie']]
    .flat()
    .map((one) => String(one).split(';')[0])
    .join('; ');
  const heard = await new Promise<{ readonly type: string; readonly text: string }>((resolve, reject) => {
    const asking = request(
      {
        host: '127.0.0.1',
        port: tlsPort,
        servername: name,
        ca: certificate,
        path: '/api/stream',
        headers: { host: `${name}:${tlsPort}`, cookie },
      },
      (response) => {
        // The first word, and the line that keeps it open: each by itself, long before the stream ends.
        let text = '';
        response.on('data', (part) => {
          text += part;
          if (!/: here/.test(text)) return;
          resolve({ type: String(response.headers['content-type']), text });
          asking.destroy();
        });
        response.on('end', () => reject(new Error(`ended after: ${text}`)));
      },
    );
    asking.on('error', reject);
    asking.end();
  });
  expect(heard.type).toMatch(/^text\/event-stream/);
  expect(heard.text).toMatch(/^retry: 3000\ndata: \{"whole":true,/);
}, 30_000);

test('too large a body is refused, by the proxy or by the server', async () => {
  expect((await ask('POST', '/api/sign-in', own(), JSON.stringify({ email: 'a'.repeat(100_000) }))).status).toBe(413);
  const large = await ask('POST', '/api/check', { 'content-type': 'application/pdf' }, Buffer.alloc(23 * 1024 * 1024)).catch(() => ({
    status: 413,
  }));
  expect(large.status).toBe(413);
});

test('who asks is told by the proxy, whatever a client says of itself', async () => {
  const statuses = [];
  // One client under sixty other names has one client's share.
  for (let index = 0; index < 70; index += 1)
    statuses.push(
      (
        await ask(
          'POST',
          '/api/sign-in',
          { ...own(), 'x-forwarded-for': `203.0.113.${index}`, 'x-vast-client': `198.51.100.${index}` },
          '{"email":1}',
        )
      ).status,
    );
  expect(statuses.filter((status) => status === 429).length).toBeGreaterThan(5);
});

test('the unit file is one that systemd takes', () => {
  const unit = join(place, 'vast-stone.service');
  writeFileSync(unit, readFileSync(join(root, 'ops', 'vast-stone.service'), 'utf8').replaceAll('/opt/vast-stone', root));
  const { status, stderr } = spawnSync('systemd-analyze', ['verify', unit], { encoding: 'utf8' });
  expect([status, stderr]).toEqual([0, '']);
  const said = readFileSync(unit, 'utf8');
  for (const line of [/^Restart=always$/m, /^User=(?!root)/m, /^NoNewPrivileges=yes$/m]) expect(said).toMatch(line);
});
