// After the build: every way into the server that was built has its row in the table of routes, and every row its route.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');
const app = join(root, 'src', 'app');
const table = readFileSync(join(root, 'src', 'core', 'permissions', 'routes.ts'), 'utf8');
const rows = [...table.matchAll(/^ {2}'((?:GET|POST) \/[^']*)'/gm)].map(([, key]) => key);
const faults = [];
const built = readdirSync(app, { recursive: true })
  .filter((file) => file.endsWith('route.ts'))
  .flatMap((file) => {
    const text = readFileSync(join(app, file), 'utf8');
    const path = `/${file.replace(/\/?route\.ts$/, '').replace(/\([^)]*\)\//g, '')}`;
    return [...text.matchAll(/^export (?:async function|function|const) ([A-Z]+)\b(.*)$/gm)].map(([, method, rest]) => {
      const key = `${method} ${path}`;
      if (!rest.startsWith(` = route('${key}',`))
        faults.push(`${file}: ${method} does not stand behind the door; write route('${key}', …)`);
      return key;
    });
  });
for (const key of built) if (!rows.includes(key)) faults.push(`${key} has no row in src/core/permissions/routes.ts`);
for (const key of rows) if (!built.includes(key)) faults.push(`${key} has a row in src/core/permissions/routes.ts and no route`);
if (faults.length > 0) {
  console.error(faults.join('\n'));
  process.exit(1);
}
