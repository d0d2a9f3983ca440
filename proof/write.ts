import { writeFileSync } from 'node:fs';
import { unitLabel } from '@/core/quantities';
import { cases, planOf } from './cases';
import { partNamed } from './hand';
import { failedOf, leaking, passedOf, sound } from './prove';

/** The long form: runs every case, and writes what it came to where Procedures and the documents read it. `npm run prove`. */
const runs = Number(process.env.VAST_PROOF_RUNS ?? 400);
const rows = cases.map((one) => {
  const plan = planOf(one);
  const part = partNamed(plan, one.what);
  const [leaks, alone, well] = [leaking(one, runs, 'sure'), leaking(one, runs, 'alone'), sound(one, runs)];
  const row = {
    procedure: one.procedure,
    case: one.id,
    plan: plan.hash,
    part: one.what,
    alone: part.alone ?? '',
    sure: part.sure ?? '',
    unit: part.unit,
    runs,
    passedOverSure: passedOf(leaks),
    passedOverAlone: passedOf(alone),
    soundPassed: passedOf(well),
    soundFailed: failedOf(well),
  };
  console.log(
    `${row.case}: over sure ${row.passedOverSure}, over alone ${row.passedOverAlone} of ${runs} passed; sound ${row.soundPassed} passed, ${row.soundFailed} failed`,
  );
  return row;
});

writeFileSync(
  'src/core/library/proved.ts',
  `/* Written by \`npm run prove\`: what simulated runs on plants that share no code with the product's came to. */

/** A part of a procedure's plan: its two figures; of so many leaks of 1.05 to 1.5 times each, how many passed; of so many sound systems, how many passed and how many failed. */
export interface Proved {
  readonly procedure: string;
  readonly case: string;
  /** Hash of the plan that was proved. */
  readonly plan: string;
  readonly part: string;
  readonly alone: string;
  readonly sure: string;
  readonly unit: string;
  readonly runs: number;
  readonly passedOverSure: number;
  readonly passedOverAlone: number;
  readonly soundPassed: number;
  readonly soundFailed: number;
}

export const proved: readonly Proved[] = ${JSON.stringify(rows, null, 2)};
`,
);

const share = (count: number): string => `${Number(((100 * count) / runs).toFixed(1))} %`;
writeFileSync(
  'docs/proof.md',
  `# Every claim is kept: how it is proved

What a test can see is claimed in two figures ([domain.md](domain.md) 3.3). \`proof/\` holds plants, gauges and hands that were written for this alone and share no code with the product's own: leaks that go with the pressure or its root, drift of pipe and air within what *sure* takes for granted and at its ends half of the time, a valve that lets by what alone would stay under its threshold, trapped air, soft pipe that goes on stretching, gauges that are steady, noisy with a memory of up to 30 s, or stick; hands that stamp late, read an end too early, come far too late, and repeat where the judge lets them. The product plans, says what to do, and judges.

${runs} leaks of 1.05 to 1.5 times each figure, and ${runs} sound systems, their valves tight, whose drift lies anywhere within the same bounds. \`./test\` runs a short form; \`npm run prove\` writes this.

| case | if nothing else moves | sure | passed over *sure* | passed over *alone* | sound: passed | sound: failed | sound: open |
| --- | --- | --- | --- | --- | --- | --- | --- |
${rows
  .map(
    (row) =>
      `| ${row.case} | ${row.alone} ${unitLabel(row.unit)} | ${row.sure} ${unitLabel(row.unit)} | ${share(row.passedOverSure)} | ${share(row.passedOverAlone)} | ${share(row.soundPassed)} | ${share(row.soundFailed)} | ${share(row.runs - row.soundPassed - row.soundFailed)} |`,
  )
  .join('\n')}

What lies outside every claim is named beside it: a let-by that the leak itself hides, a branch with a larger free surface, a thermometer at another spot, what warming does to soft pipe.
`,
);
