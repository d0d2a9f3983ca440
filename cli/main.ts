import { parseArgs } from 'node:util';
import { judge, sightAsHeld } from '@/core/judging';
import { planHash } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { recordSchema, verdictOver } from '@/core/record';
import { readRecord } from '@/server/reader';
import { convert } from './convert';
import { fail, print, readBytes } from './files';
import { plan } from './plan';
import { simulate } from './simulate';

const usage = `vast-stone: plan, judge, verify, convert and make test records

  vast-stone judge FILE.json              judges every attempt; the verdict as JSON with reason codes
  vast-stone verify FILE [--signer F …]   checks the seal of a record or of a certificate's PDF
  vast-stone simulate [options]           writes a record of a simulated test
      --procedure ID   ${procedures.map(({ id }) => id).join(', ')}
${procedures.map((one) => `      --fault ID       of ${one.id}: ${one.plant.scenarios.map(({ id }) => id).join(', ')}`).join('\n')}
      --seed N         a whole number; the same seed gives the same record (default 1)
      --out FILE       writes there instead of to the standard output
  vast-stone plan FILE.json               works a plan out and prints its sheet (--json: the plan itself)
      --example ID     prints the input of an example instead: procedure, answers, pipes, gauge, instruments, date
  vast-stone convert RECORD.json          writes its readings as CSV
  vast-stone convert READINGS.csv --into RECORD.json
                                          writes that record with the readings of the CSV in place of its own
  vast-stone schema                       prints the record's JSON Schema

Exit: 0 judged, checked or written, whatever the verdict; 1 a seal that is not intact; 2 a file or option that cannot be read.`;

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
      case 'plan':
        return await plan(rest);
      case 'convert':
        return await convert(rest);
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
    const { code, message } = error as { readonly code?: unknown; readonly message?: string };
    if (String(code).startsWith('ERR_PARSE_ARGS')) return fail(message ?? 'There is no such option.');
    throw error;
  }
}

async function judgeFile(args: readonly string[]): Promise<number> {
  const { positionals } = parseArgs({ args: [...args], allowPositionals: true });
  const data = await readBytes(positionals[0]);
  if (typeof data === 'string') return fail(data);
  const read = readRecord(data.toString('utf8'));
  if (!read.ok) return fail(`${positionals[0]}: ${read.problem.message}`);
  const tests = read.value.tests.map((one) => {
    const attempts = one.attempts.map(({ run, number, plan, events }) => {
      const judgement = judge(plan, events);
      return {
        run,
        number,
        // A plan whose hash is not its own was changed after it was made; it is judged all the same, by what it says now.
        planIntact: planHash(plan) === plan.hash,
        ...judgement,
        // What it could see as it was held, in both figures.
        sight: sightAsHeld(plan, judgement).map(({ what, phase, told, alone, sure, unit, assumes, outside }) => ({
          what,
          phase,
          // Where it is not, the figures are as planned and nothing is claimed.
          told,
          alone,
          sure,
          unit,
          assumes,
          outside,
        })),
      };
    });
    const last = attempts[attempts.length - 1];
    return { verdict: last.verdict, codes: last.reasons.map(({ code }) => code), attempts };
  });
  print({ verdict: verdictOver(tests.map(({ verdict }) => verdict)), tests });
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
  return facts.state === 'altered' || facts.state === 'not sealed' || facts.pages?.state === 'altered' ? 1 : 0;
}
