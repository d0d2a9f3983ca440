import { spawnSync } from 'node:child_process';
import { build } from 'esbuild';

/** Bundles a long measure as the product is built, so that no development loader is measured, and runs it: bench.mjs NAME [arguments]. */
const [name = 'run', ...args] = process.argv.slice(2);
const outfile = `.data/bench-${name}.mjs`;
await build({
  entryPoints: [`bench/${name}.ts`],
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  outfile,
  logLevel: 'warning',
});
const { status, signal } = spawnSync(process.execPath, [outfile, ...args], { stdio: 'inherit' });
if (status !== 0) console.error(`${name} ended with ${status ?? signal}`);
process.exit(status ?? 1);
