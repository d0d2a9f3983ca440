// Bundles the programs that run beside the pages: what listens, and the workers in which files are checked and papers are typeset. Packages stay where they
// are installed. Usage: node ops/server-programs.mjs
import { join } from 'node:path';
import { build } from 'esbuild';

const root = join(import.meta.dirname, '..');
await build({
  entryPoints: ['serve', 'check-worker', 'paper-worker'].map((name) => join(root, 'src', 'workers', `${name}.ts`)),
  outdir: join(root, process.env.NEXT_DIST ?? '.next'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  tsconfig: join(root, 'tsconfig.json'),
});
