import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { lists } from '@/core/judging';
import { procedures } from '@/core/procedures';
import { recordSchema } from '@/core/record';
import { simulatedRecord } from '../cli/simulate';

/** Writes what the documents derive from the code: the published schema, an example of every procedure, the table of reasons. */

const write = (file: string, text: string): void => {
  writeFileSync(file, text);
  console.log(file);
};

write('docs/record.schema.json', `${JSON.stringify(recordSchema, null, 2)}\n`);

mkdirSync('docs/examples', { recursive: true });
for (const file of readdirSync('docs/examples')) rmSync(`docs/examples/${file}`);
for (const { id, example } of procedures)
  write(`docs/examples/${id}.json`, `${JSON.stringify(simulatedRecord(id, example.fault ?? 'sound', 3), null, 1)}\n`);

const format = readFileSync('docs/record-format.md', 'utf8');
const rows = lists.flatMap((list) => Object.entries(list)).map(([code, { weight }]) => `| \`${code}\` | ${weight} |`);
const examples = procedures.map(({ id, title }) => `[${title}](examples/${id}.json)`).join(', ');
const table = ['| code | weight |', '| --- | --- |', ...rows].join('\n');
write(
  'docs/record-format.md',
  format
    .replace(/(`simulate --procedure ID --fault ID --seed 3`\): ).*\n/, (_, head: string) => `${head}${examples}.\n`)
    .replace(/(## Reason codes\n\n)[\s\S]*?(\n\n## )/, (_, head: string, tail: string) => `${head}${table}${tail}`),
);
