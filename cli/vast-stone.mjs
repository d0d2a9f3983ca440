#!/usr/bin/env node
// Runs the command line from its TypeScript source; tsx resolves the project's own paths.
import { join } from 'node:path';
import { register } from 'tsx/esm/api';

const root = join(import.meta.dirname, '..');
register({ tsconfig: join(root, 'tsconfig.json') });
const { main } = await import('./main.ts');
process.exitCode = await main(process.argv.slice(2), root);
