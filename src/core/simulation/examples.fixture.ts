import { exampleInput } from '../planning/example-input';
import { type Plan, type PlanInput, planTest } from '../planning/plan';
import { procedureById } from '../procedures';
import { domesticGasMillibar } from '../procedures/domestic-gas-millibar';
import type { Gauge } from '../sizing/gauge';
import { scenarioFor } from './plants';
import { type Job, simulateRun } from './technician';

/** Small sound inputs that tests, benchmarks and examples start from. */
export const demoGauge: Gauge = {
  id: 'gauge-1',
  name: 'Test digital',
  kind: 'digital',
  unit: 'mbar',
  readability: '0.01',
  rangeLow: '-10',
  rangeHigh: '150',
  serial: 'T-1',
  calibration: { needed: true, last: '2026-01-01', due: '2027-01-01' },
  simulated: false,
};

type Change = Partial<Omit<PlanInput, 'answers'>> & { readonly answers?: Readonly<Record<string, string>> };

export const planInput = (change: Change): PlanInput => ({
  procedure: domesticGasMillibar.id,
  pipes: '22cu 12\n15cu 9',
  statedVolume: '',
  gauge: demoGauge,
  houseRules: [],
  on: '2026-11-20',
  ...change,
  answers: {
    ...Object.fromEntries(domesticGasMillibar.parameters.map((parameter) => [parameter.id, parameter.usual])),
    ...change.answers,
  },
});

export function planFor(change: Change): Plan {
  const result = planTest(planInput(change));
  if (!result.ok) throw new Error(result.problems.map(({ message }) => message).join(' '));
  return result.value.plan;
}

/** The input of a procedure's example, with some of it changed. */
export function exampleFor(procedureId: string, change: Change = {}): PlanInput {
  const procedure = procedureById(procedureId);
  if (procedure === undefined) throw new Error(`no procedure ${procedureId}`);
  const input = exampleInput(procedure, '2026-01-05');
  return { ...input, ...change, answers: { ...input.answers, ...change.answers } };
}

/** The plan of a procedure's example, with some of it changed. */
export function examplePlan(procedureId: string, change: Change = {}): Plan {
  const result = planTest(exampleFor(procedureId, change));
  if (!result.ok) throw new Error(result.problems.map(({ message }) => message).join(' '));
  return result.value.plan;
}

/** Codes of the problems that a changed example meets; empty where it is planned. */
export function exampleProblems(procedureId: string, change: Change): readonly string[] {
  const result = planTest(exampleFor(procedureId, change));
  return result.ok ? [] : result.problems.map(({ code }) => code);
}

export const fixtureRun = '00000000-0000-4000-8000-000000000001';

/** A simulated job on a plant with a named fault. */
export function jobFor(plan: Plan, scenarioId: string, seed = 7, change: Partial<Job> = {}): Job {
  const scenario = scenarioFor(plan, scenarioId);
  if (scenario === undefined) throw new Error(`no scenario ${scenarioId}`);
  return {
    plan,
    seed,
    scenario,
    run: fixtureRun,
    author: 'Test technician',
    device: 'device-1',
    startAt: 1_795_000_000_000,
    offsetMinutes: 0,
    ...change,
  };
}

export const eventsFor = (plan: Plan, scenarioId: string, seed = 7, change: Partial<Job> = {}) =>
  simulateRun(jobFor(plan, scenarioId, seed, change));

/** The day that examples are planned for. */
export const exampleDay = 1_767_603_600_000;

/** As `eventsFor`, on that day. */
export const exampleEvents = (plan: Plan, scenarioId: string, seed = 7) => eventsFor(plan, scenarioId, seed, { startAt: exampleDay });
