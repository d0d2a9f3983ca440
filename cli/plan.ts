import { parseArgs } from 'node:util';
import { planText } from '@/core/library';
import { type PlanInput, planTest } from '@/core/planning';
import { procedureById, procedures } from '@/core/procedures';
import { readPlanInput } from '@/server/reader';
import { deliver, fail, readBytes } from './files';
import { exampleOf } from './simulate';

/** Plans from a file of answers; prints the sheet, or the plan as JSON. */
export async function plan(args: readonly string[]): Promise<number> {
  const { positionals, values } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { json: { type: 'boolean', default: false }, example: { type: 'string' }, out: { type: 'string' } },
  });
  if (values.example !== undefined) return example(values.example, values.out);
  const data = await readBytes(positionals[0]);
  if (typeof data === 'string') return fail(data);
  const input = readPlanInput(data.toString('utf8'));
  if (!input.ok) return fail(`${positionals[0]}: ${input.problem.message}`);
  return sheet(input.value, values.json, values.out);
}

async function sheet(input: PlanInput, json: boolean, out: string | undefined): Promise<number> {
  const procedure = procedureById(input.procedure);
  const planned = planTest(input);
  // Every problem with its code, as the page shows it beside its field.
  if (!planned.ok || procedure === undefined)
    return fail(planned.ok ? 'unknown procedure' : planned.problems.map(({ code, message }) => `${code}: ${message}`).join('\n'));
  await deliver(json ? `${JSON.stringify(planned.value.plan, null, 1)}\n` : planText(procedure, planned.value), out);
  return 0;
}

async function example(id: string, out: string | undefined): Promise<number> {
  const procedure = procedureById(id);
  if (procedure === undefined) return fail(`There is no procedure “${id}”. Use one of ${procedures.map((one) => one.id).join(', ')}.`);
  await deliver(`${JSON.stringify(exampleOf(procedure), null, 1)}\n`, out);
  return 0;
}
