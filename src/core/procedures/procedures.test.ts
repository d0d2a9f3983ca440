import type { Condition, Phase } from '../course/phases';
import { expectedCourse } from '../judging/course';
import { judge } from '../judging/judge';
import { planTest } from '../planning/plan';
import { eventsFor, planFor, planInput } from '../simulation/examples.fixture';
import { procedureById, procedures } from '.';
import { isConclusion } from './conclusions';
import { domesticGasMillibar } from './domestic-gas-millibar';

/* A procedure is data: what it names must exist, in every combination of its answers. */

const choices = (id: string): readonly string[] => {
  const parameter = domesticGasMillibar.parameters.find((one) => one.id === id);
  return parameter?.kind === 'choice' ? parameter.options.map(({ value }) => value) : [];
};

const combinations = choices('work').flatMap((work) =>
  choices('smell').flatMap((smell) =>
    choices('appliances').flatMap((appliances) =>
      choices('meter').flatMap((meter) => ['<=28', '>28-35'].map((pipe) => ({ work, smell, appliances, meter, pipe }))),
    ),
  ),
);

const conditions = (phases: readonly Phase[]): readonly Condition[] => phases.flatMap(({ when }) => when.flat());

test('the library finds its procedures, and nothing else', () => {
  for (const procedure of procedures) expect(procedureById(procedure.id)).toBe(procedure);
  expect(procedureById('guess')).toBeUndefined();
  expect(planTest(planInput({ procedure: 'guess' }))).toMatchObject({ ok: false, problems: [{ code: 'procedure-unknown' }] });
});

test('no procedure asks two questions by one name', () => {
  const twice = procedures.filter(({ parameters }) => new Set(parameters.map(({ label }) => label)).size < parameters.length);
  expect(twice.map(({ id }) => id)).toEqual([]);
});

test('there are as many combinations as the answers give', () => expect(combinations).toHaveLength(2 * 2 * 2 * 4 * 2));

test.each(combinations)('%j: the course holds together', (answers) => {
  const plan = planFor({ answers, pipes: '22cu 3' });
  const ids = plan.phases.map(({ id }) => id);
  expect(new Set(ids).size).toBe(ids.length);
  for (const condition of [
    ...conditions(plan.phases),
    ...plan.conclusions.flatMap(({ when }) => when.flat()),
    ...plan.boundaries.flatMap(({ provedBy = [] }) => provedBy.flat()),
  ])
    if ('phase' in condition) expect(ids).toContain(condition.phase);
  for (const phase of plan.phases) {
    for (const caution of phase.cautions) expect(plan.cautions[caution]).toBeDefined();
    if (phase.kind === 'hold') {
      expect(ids).toContain(phase.restartFrom);
      expect(ids.indexOf(phase.restartFrom)).toBeLessThanOrEqual(ids.indexOf(phase.id));
      expect(Number(phase.band.low)).toBeLessThan(Number(phase.band.high));
    }
    // A phase that waits for another comes after it: the judge goes through them in order.
    for (const condition of phase.when.flat())
      if ('outcome' in condition) expect(ids.indexOf(condition.phase)).toBeLessThan(ids.indexOf(phase.id));
  }
  for (const { reason } of plan.conclusions) expect(isConclusion(reason)).toBe(true);
  for (const boundary of plan.boundaries)
    if (boundary.provedBy === undefined)
      expect(plan.phases.some((phase) => phase.kind === 'check' && phase.items.some((item) => item.boundary === boundary.id))).toBe(true);
  expect(ids).toContain(plan.judgedBy);
  expect(plan.phases.filter((phase) => phase.kind === 'check' && phase.closing).map(({ id }) => id)).toEqual(['restore', 'make-safe']);
});

test.each(combinations)('%j: a sound plant passes, a leak in the pipework never does', (answers) => {
  const plan = planFor({ answers, pipes: '22cu 3' });
  expect(judge(plan, eventsFor(plan, 'sound')).verdict).toBe('pass');
  expect(judge(plan, eventsFor(plan, 'pipework-leak')).verdict).toBe('fail');
});

test('a small leak at an appliance: permitted, zero, or more than the meter allows', () => {
  const verdict = (answers: Record<string, string>) => {
    const plan = planFor({ answers, pipes: '22cu 3' });
    return judge(plan, eventsFor(plan, 'small-leak')).verdict;
  };
  expect(verdict({})).toBe('pass with permitted drop');
  expect(verdict({ meter: 'ultrasonic-6' })).toBe('pass with permitted drop');
  expect(verdict({ meter: 'diaphragm-16' })).toBe('fail');
  expect(verdict({ work: 'new' })).toBe('fail');
  expect(verdict({ smell: 'yes' })).toBe('fail');
  // The appliances are isolated before such a test, so their leak is not seen, and the plan says that they are not tested.
  expect(verdict({ appliances: 'pipework only' })).toBe('pass');
  expect(planFor({ answers: { appliances: 'pipework only' } }).notTested.join()).toContain('appliances');
});

describe('the way ahead', () => {
  const plan = planFor({});
  const shown = (events: Parameters<typeof judge>[1]) => expectedCourse(plan, judge(plan, events)).map(({ id }) => id);

  test('at first: the phases of a test that goes well', () =>
    expect(shown([])).toEqual(['prepare', 'zero', 'let-by', 'settle', 'hold', 'restore']));

  test('at the end: the phases that were gone through', () => {
    expect(shown(eventsFor(plan, 'small-leak'))).toEqual([
      'prepare',
      'zero',
      'let-by',
      'settle',
      'hold',
      'isolate',
      'let-by-pipework',
      'settle-pipework',
      'hold-pipework',
      'restore',
    ]);
    expect(shown(eventsFor(plan, 'let-by'))).toEqual([
      'prepare',
      'zero',
      'let-by',
      'let-by-seat',
      'seat-remade',
      'let-by-report',
      'make-safe',
    ]);
  });
});

test('every figure is used with its stricter side, and the stricter figure gives the stricter plan', () => {
  const rule = (figure: string, value: string) => ({ procedure: domesticGasMillibar.id, figure, value, reference: 'House 1' });
  const plan = planFor({
    houseRules: [rule('perceptible-two-decimals', '0.10'), rule('permitted-diaphragm-6-28', '1.0'), rule('let-by-seconds', '90')],
  });
  expect(plan.limit).toBe('0.10');
  expect(plan.phases.find(({ id }) => id === 'let-by')).toMatchObject({ seconds: 90, limit: { threshold: '0.10' } });
  // What the procedure alone permits, the house refuses.
  expect(judge(plan, eventsFor(plan, 'small-leak')).verdict).toBe('fail');
  expect(judge(planFor({}), eventsFor(planFor({}), 'small-leak')).verdict).toBe('pass with permitted drop');
});
