import { createHash, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type NextRequest, NextResponse } from 'next/server';
import { themeScript } from '@/ui/theme-script';

/** Inline scripts' hashes of the pages rendered at build time; the other pages get a nonce each time they are made. */
let prepared: Readonly<Record<string, readonly string[]>> | undefined;

function preparedPages(): Readonly<Record<string, readonly string[]>> {
  prepared ??= JSON.parse(readFileSync(join(process.cwd(), process.env.NEXT_DIST ?? '.next', 'page-policies.json'), 'utf8'));
  return prepared ?? {};
}

const themeHash = `sha256-${createHash('sha256').update(themeScript).digest('base64')}`;

const policy = (scripts: readonly string[]): string =>
  [
    "default-src 'self'",
    `script-src 'self' ${scripts.map((source) => `'${source}'`).join(' ')}`,
    // Widths and places of drawings are style attributes, which no hash can name.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'self'",
  ].join('; ');

/** Puts a content policy on every page: only our own scripts run, whatever text a page shows. */
export function proxy(request: NextRequest): NextResponse {
  // The development server makes scripts as it goes, by means that no policy of ours would allow.
  if (process.env.NODE_ENV !== 'production') return NextResponse.next();
  const pages = preparedPages();
  const own = pages[request.nextUrl.pathname];
  if (own !== undefined) {
    const response = NextResponse.next();
    response.headers.set('content-security-policy', policy(own));
    return response;
  }
  // An address that leads nowhere gets the page for that, which was rendered beforehand too.
  const value = policy([`nonce-${randomBytes(16).toString('base64')}`, themeHash, ...(pages['/_not-found'] ?? [])]);
  const headers = new Headers(request.headers);
  headers.set('content-security-policy', value);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', value);
  return response;
}

export const config = { matcher: '/((?!_next/|api/|sw.js|icon).*)' };
