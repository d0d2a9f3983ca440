import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const files = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? files(join(folder, entry.name)) : [join(folder, entry.name)],
  );
const sources = files(import.meta.dirname).filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'));

test('there are sources to look at', () => expect(sources.length).toBeGreaterThan(30));

test.each(sources.map((file) => [file.slice(import.meta.dirname.length + 1), file]))(
  '%s imports nothing outside the core and knows no clock or chance',
  (_, file) => {
    const text = readFileSync(file, 'utf8');
    const imports = [...text.matchAll(/(?:^|\n)(?:import|export)\b[^;'"]*from\s*['"]([^'"]+)['"]|\bimport\(\s*['"]([^'"]+)['"]/g)].map(
      ([, path, late]) => path ?? late,
    );
    for (const path of imports) {
      // Hashing comes from an audited library, in the one file that names it.
      if (path.startsWith('@noble/hashes/') && file.endsWith('exact/hash.ts')) continue;
      expect(path).toMatch(/^\.\.?(\/|$)/);
      expect(join(file, '..', path).startsWith(import.meta.dirname)).toBe(true);
    }
    expect(text).not.toMatch(/\bMath\.random\b|\bDate\.now\b|\bnew Date\b|\bperformance\.now\b|\bprocess\.env\b/);
  },
);

test('every folder of the core is a floor of the lint’s, and each has a face', () => {
  const config = JSON.parse(readFileSync(join(import.meta.dirname, '../../biome.json'), 'utf8')) as {
    overrides: { includes: string[] }[];
  };
  const floors = config.overrides.flatMap(({ includes }) => /^src\/core\/([a-z]+)\/\*\*$/.exec(includes[0])?.[1] ?? []);
  const folders = readdirSync(import.meta.dirname, { withFileTypes: true }).filter((entry) => entry.isDirectory());
  // The topmost imports what it likes of the others, and needs no rule.
  expect([...floors, 'bench'].sort()).toEqual(folders.map(({ name }) => name).sort());
  for (const { name } of folders) expect(readdirSync(join(import.meta.dirname, name))).toContain('index.ts');
});
