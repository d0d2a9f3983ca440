import { readFile, writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { dateText, judge } from '@/core/judging';
import { planHash, planTest } from '@/core/planning/plan';
import { procedureById, procedures } from '@/core/procedures';
import { recordFormat, recordSchema, recordVersion, type TestRecord } from '@/core/record';
import { scenarioById, scenarios, seedOf, simulateRun, uuidAt } from '@/core/simulation';
import { readRecord } from '@/server/reader';

const usage = `vast-stone: judge, verify and make test records

  vast-stone judge FILE.json              judges every attempt; the verdict as JSON with reason codes
  vast-stone verify FILE [--signer F …]   checks the seal of a record or of a certificate's PDF
  vast-stone simulate [options]           writes a record of a simulated test
      --procedure ID   ${procedures.map(({ id }) => id).join(', ')}
      --fault ID       ${scenarios.map(({ id }) => id).join(', ')}
      --seed N         a whole number; the same seed gives the same record (default 1)
      --out FILE       writes there instead of to the standard output
  vast-stone schema                       prints the record's JSON Schema

Exit: 0 judged, checked or written, whatever the verdict; 1 a seal that is not intact; 2 a file or option that cannot be read.`;

const print = (value: unknown): void => console.log(JSON.stringify(value, null, 2));

function fail(message: string): 2 {
  console.error(message);
  return 2;
}

/** @returns the exit code */
export async function main(args: readonly string[], root: string): Promise<number> {
  const [command, ...rest] = args;
  try {
    switch (command) {
      case 'judge':
        return await judgeFile(rest);
      case 'verify':
        return await verify(rest, root);
      case 'simulate':
        return await simulate(rest);
      case 'schema':
        print(recordSchema);
        return 0;
      case undefined:
      case 'help':
      case '--help':
        console.log(usage);
        return command === undefined ? 2 : 0;
      default:
        return fail(`There is no command “${command}”.\n\n${usage}`);
    }
  } catch (error) {
    // parseArgs throws for unknown options; anything else is a bug and keeps its trace.
    if (error instanceof TypeError && 'code' in error && String(error.code).startsWith('ERR_PARSE_ARGS')) return fail(error.message);
    throw error;
  }
}

async function readBytes(file: string | undefined): Promise<Buffer | string> {
  if (file === undefined) return 'Name a file.';
  try {
    return await readFile(file);
  } catch (error) {
    return `${file} cannot be read: ${(error as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : (error as Error).message}.`;
  }
}

async function judgeFile(args: readonly string[]): Promise<number> {
  const { positionals } = parseArgs({ args: [...args], allowPositionals: true });
  const data = await readBytes(positionals[0]);
  if (typeof data === 'string') return fail(data);
  const read = readRecord(data.toString('utf8'));
  if (!read.ok) return fail(`${positionals[0]}: ${read.problem.message}`);
  const attempts = read.value.attempts.map(({ run, number, plan, events }) => ({
    run,
    number,
    // A plan whose hash is not its own was changed after it was made; it is judged all the same, by what it says now.
    planIntact: planHash(plan) === plan.hash,
    ...judge(plan, events),
  }));
  const last = attempts.at(-1);
  print({ verdict: last?.verdict, codes: last?.reasons.map(({ code }) => code), attempts });
  return 0;
}

async function verify(args: readonly string[], root: string): Promise<number> {
  const { positionals, values } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { signer: { type: 'string', multiple: true } },
  });
  const data = await readBytes(positionals[0]);
  if (typeof data === 'string') return fail(data);
  const { verifyFile } = await import('@/server/verify');
  const known = (values.signer ?? []).map((fingerprint) => ({ fingerprint: fingerprint.trim(), revoked: false }));
  const result = await verifyFile(data, known, root);
  if (!result.ok) return fail(`${positionals[0]}: ${result.problem.message}`);
  const { record: _, ...facts } = result.value;
  print(facts);
  return facts.state === 'altered' || facts.state === 'not sealed' || facts.pages === 'trust the record, not these pages' ? 1 : 0;
}

async function simulate(args: readonly string[]): Promise<number> {
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
  const scenario = scenarioById(values.fault);
  if (scenario === undefined) return fail(`There is no fault “${values.fault}”. Use one of ${scenarios.map(({ id }) => id).join(', ')}.`);
  const seed = Number(values.seed);
  if (!Number.isSafeInteger(seed)) return fail('The seed must be a whole number.');
  const record = simulatedRecord(procedure.id, scenario.id, seed);
  const text = `${JSON.stringify(record, null, 1)}\n`;
  if (values.out === undefined) process.stdout.write(text);
  else await writeFile(values.out, text);
  return 0;
}

/** A whole record of a simulated job; the same arguments give the same record, so its dates are fixed. */
export function simulatedRecord(procedureId: string, scenarioId: string, seed: number): TestRecord {
  const procedure = procedureById(procedureId);
  const scenario = scenarioById(scenarioId);
  if (procedure === undefined || scenario === undefined) throw new Error('unknown procedure or scenario');
  const startAt = 1_767_603_600_000;
  const run = uuidAt(seed, 1_000_001);
  const { example } = procedure;
  const planned = planTest({
    procedure: procedure.id,
    answers: { ...Object.fromEntries(procedure.parameters.map((parameter) => [parameter.id, parameter.default])), ...example.answers },
    pipes: example.pipes,
    statedVolume: '',
    houseRules: [],
    on: dateText(startAt),
    gauge: example.gauge,
    ...(example.instruments === undefined ? {} : { instruments: example.instruments }),
  });
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
    system: { name: 'Simulated gas system', kind: procedure.systemKind, components: [] },
    attempts: [{ run, number: 1, plan, events, judgement: judge(plan, events) }],
  };
}
