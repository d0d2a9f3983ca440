import { spawnSync } from 'node:child_process';
import { build } from 'esbuild';

/** Bundles the benchmarks as the product is built, so that no development loader is measured, and runs them. */
const outfile = '.data/bench.mjs';
await build({
  entryPoints: ['bench/run.ts'],
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  outfile,
  logLevel: 'warning',
});
process.exit(spawnSync(process.execPath, [outfile], { stdio: 'inherit' }).status ?? 1);
