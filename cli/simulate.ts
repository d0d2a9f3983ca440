import { parseArgs } from 'node:util';
import { dateText, judge } from '@/core/judging';
import { exampleInput, type PlanInput, planTest } from '@/core/planning';
import { type Procedure, procedureById, procedures } from '@/core/procedures';
import { recordFormat, recordVersion, type TestRecord } from '@/core/record';
import { seedOf, simulateRun, uuidAt } from '@/core/simulation';
import { deliver, fail } from './files';

/** Simulated records are made for one day, so that the same arguments give the same record. */
const startAt = 1_767_603_600_000;

/** A procedure's example, planned for that day. */
export const exampleOf = (procedure: Procedure): PlanInput => exampleInput(procedure, dateText(startAt));

export async function simulate(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({
    args: [...args],
    options: {
      procedure: { type: 'string', default: procedures[0].id },
      fault: { type: 'string', default: 'sound' },
      seed: { type: 'string', default: '1' },
      out: { type: 'string' },
    },
  });
  const procedure = procedureById(values.procedure);
  if (procedure === undefined)
    return fail(`There is no procedure “${values.procedure}”. Use one of ${procedures.map(({ id }) => id).join(', ')}.`);
  const scenario = procedure.plant.scenarios.find(({ id }) => id === values.fault);
  if (scenario === undefined)
    return fail(
      `There is no fault “${values.fault}” for ${procedure.id}. Use one of ${procedure.plant.scenarios.map(({ id }) => id).join(', ')}.`,
    );
  const seed = Number(values.seed);
  if (!Number.isSafeInteger(seed)) return fail('The seed must be a whole number.');
  await deliver(`${JSON.stringify(simulatedRecord(procedure.id, scenario.id, seed), null, 1)}\n`, values.out);
  return 0;
}

/** A whole record of a simulated job on a procedure's example. @throws Error for a procedure or fault that there is not */
export function simulatedRecord(procedureId: string, scenarioId: string, seed: number): TestRecord {
  const procedure = procedureById(procedureId);
  const scenario = procedure?.plant.scenarios.find(({ id }) => id === scenarioId);
  if (procedure === undefined || scenario === undefined) throw new Error('unknown procedure or scenario');
  const run = uuidAt(seed, 1_000_001);
  const planned = planTest(exampleOf(procedure));
  if (!planned.ok) throw new Error(planned.problems[0].message);
  const { plan } = planned.value;
  const events = simulateRun({
    plan,
    seed: seedOf(run) ^ seed,
    scenario,
    run,
    author: 'Simulated technician',
    device: 'command-line',
    startAt,
    offsetMinutes: 0,
  });
  return {
    format: recordFormat,
    version: recordVersion,
    firm: { name: 'Simulated firm' },
    site: { name: 'Simulated site', address: 'nowhere', occupier: 'nobody' },
    tests: [
      {
        system: { name: `Simulated ${procedure.systemKinds[0]} system`, kind: procedure.systemKinds[0], components: [] },
        attempts: [{ run, number: 1, plan, events, judgement: judge(plan, events) }],
      },
    ],
  };
}
