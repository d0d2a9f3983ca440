// Bundles the service worker after the build, with the list of what it keeps: the pages that open with no signal and the static files.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { build } from 'esbuild';

const root = join(import.meta.dirname, '..');
const dist = join(root, process.env.NEXT_DIST ?? '.next');
const files = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? files(join(folder, entry.name)) : [join(folder, entry.name)],
  );
const buildId = readFileSync(join(dist, 'BUILD_ID'), 'utf8').trim();
/** Pages that open with no signal: made at build time, without server data. */
const shells = ['field', 'bench'].map((name) => ({
  url: `/${name}`,
  revision:
    createHash('sha256')
      .update(readFileSync(join(dist, 'server', 'app', `${name}.html`)))
      .digest('hex')
      .slice(0, 16) + buildId,
}));
const kept = files(join(dist, 'static'))
  .filter(
    (file) =>
      /\.(js|css|woff2)$/.test(file) && !/pdf\.worker/.test(file) && !(/\.woff2$/.test(file) && !/latin(-ext)?-(wght|400|600)/.test(file)),
  )
  .map((file) => ({ url: `/_next/static/${relative(join(dist, 'static'), file).split('\\').join('/')}`, revision: null }));
const manifest = [...shells, ...kept];
await build({
  entryPoints: [join(root, 'src/workers/service-worker.ts')],
  outfile: join(dist, 'service-worker.js'),
  bundle: true,
  minify: true,
  platform: 'browser',
  target: 'es2022',
  define: { 'self.__SW_MANIFEST': JSON.stringify(manifest), 'process.env.NODE_ENV': '"production"' },
});
