import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { NextRequest } from 'next/server';
import { proxy } from './proxy';

const dist = join('.data', `proxy-${process.pid}`);
mkdirSync(dist, { recursive: true });
writeFileSync(join(dist, 'page-policies.json'), JSON.stringify({ '/field': ['sha256-FIELD'], '/_not-found': ['sha256-NOWHERE'] }));

const asked = (path: string) => proxy(new NextRequest(`http://tests.example${path}`)).headers.get('content-security-policy') ?? '';
const scripts = (policy: string) => /script-src ([^;]*)/.exec(policy)?.[1].split(' ') ?? [];

beforeAll(() => {
  process.env.NEXT_DIST = dist;
  Object.assign(process.env, { NODE_ENV: 'production' });
});
afterAll(() => Object.assign(process.env, { NODE_ENV: 'test' }));

test('a page rendered beforehand names its own scripts, and no nonce that anyone could reuse', () =>
  expect(scripts(asked('/field?run=1'))).toEqual(["'self'", "'sha256-FIELD'"]));

test('every other page gets a nonce of its own each time, beside the theme’s hash and those of the page for wrong addresses', () => {
  const [one, two] = [scripts(asked('/today')), scripts(asked('/today'))];
  expect(one[1]).toMatch(/^'nonce-[A-Za-z0-9+/]{22}=='$/);
  expect(one[1]).not.toBe(two[1]);
  expect(one).toContain("'sha256-NOWHERE'");
  expect(one.filter((source) => source.startsWith("'sha256-"))).toHaveLength(2);
});

test('nothing from elsewhere, no inline script without a name, no frame of another site', () => {
  for (const path of ['/field', '/today', '/nowhere']) {
    const policy = asked(path);
    expect(policy).toContain("default-src 'self'");
    expect(policy).toContain("frame-ancestors 'self'");
    expect(scripts(policy).join(' ')).not.toMatch(/unsafe|\*|https?:/);
  }
});

test('the page is told the nonce that it must use', () => {
  const response = proxy(new NextRequest('http://tests.example/today'));
  expect(response.headers.get('x-middleware-request-content-security-policy')).toBe(response.headers.get('content-security-policy'));
});

test('the development server is left alone', () => {
  Object.assign(process.env, { NODE_ENV: 'development' });
  expect(asked('/today')).toBe('');
  Object.assign(process.env, { NODE_ENV: 'production' });
});
