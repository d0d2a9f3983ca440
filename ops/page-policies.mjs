// After the build: the hashes of the inline scripts of every page that was rendered beforehand, for its content policy.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const dist = join(import.meta.dirname, '..', process.env.NEXT_DIST ?? '.next');
const app = join(dist, 'server', 'app');
const inline = /<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g;
const pages = readdirSync(app, { recursive: true })
  .filter((file) => file.endsWith('.html'))
  .map((file) => {
    const hashes = [...readFileSync(join(app, file), 'utf8').matchAll(inline)].map(
      ([, script]) => `sha256-${createHash('sha256').update(script).digest('base64')}`,
    );
    const path = `/${file.replace(/\.html$/, '')}`;
    return [path === '/index' ? '/' : path, [...new Set(hashes)]];
  });
writeFileSync(join(dist, 'page-policies.json'), JSON.stringify(Object.fromEntries(pages), null, 1));
