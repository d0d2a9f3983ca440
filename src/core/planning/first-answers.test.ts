import { procedures } from '../procedures';
import { exampleFor } from '../simulation/examples.fixture';
import { parsePipeLine } from '../sizing/pipe-volume';
import { parseOpenings } from '../sizing/plugs';
import { answersOfPipes, firstAnswers, openQuestions } from './first-answers';
import { planTest } from './plan';

/* What a plan begins with, and what it never presumes. */

const nobody = { name: 'Gas, flat 3', components: [], rated: [], last: {}, beside: {} };
const procedureOf = (id: string) => procedures.find((one) => one.id === id) ?? procedures[0];
const gas = procedureOf('domestic-gas-millibar');
const limits = ['fuel', 'work', 'smell', 'appliances', 'meter', 'pipe', 'supply', 'working'];

test('of a new system nothing that sets a limit is presumed', () => {
  const { answers, from } = firstAnswers(gas, nobody, undefined, {});
  expect(answers).toEqual({ 'supply-end': 'valve' });
  expect(from).toEqual({ 'supply-end': 'usual' });
  expect(openQuestions(gas, answers).map(({ id }) => id)).toEqual(limits);
  const planned = planTest({ ...exampleFor(gas.id), answers });
  expect(planned.ok || planned.problems.map(({ code, field }) => `${code} ${field}`)).toEqual(limits.map((id) => `answer-missing ${id}`));
});

test.each(procedures.map((one) => [one.id, one] as const))('%s: what it names of its questions is among them', (_, procedure) => {
  const ids = procedure.parameters.map(({ id }) => id);
  for (const id of [...(procedure.presumed ?? []), ...(procedure.askedEachTime ?? [])]) expect(ids).toContain(id);
  const begun = firstAnswers(procedure, nobody, undefined, {});
  for (const [id, source] of Object.entries(begun.from)) if (source === 'usual') expect(procedure.presumed).toContain(id);
});

test('the last test’s answers are carried over, but never what was smelled, and nothing that is no answer any more', () => {
  const last = { ...exampleFor(gas.id).answers, smell: 'yes', meter: 'sold', stranger: 'x' };
  const { answers, from } = firstAnswers(gas, nobody, last, { meter: 'ultrasonic-6' });
  expect(answers).toMatchObject({ fuel: 'natural gas', meter: 'ultrasonic-6' });
  expect(from).toMatchObject({ fuel: 'last test', meter: 'register' });
  expect('smell' in answers || 'stranger' in answers).toBe(false);
  expect(openQuestions(gas, answers).map(({ id }) => id)).toEqual(['smell']);
});

test('the register gives names, appliances and the parts that are rated, and they stand over the last test', () => {
  const tank = firstAnswers(
    procedureOf('propane-tank-check'),
    { ...nobody, components: ['Range Ostra 4, serial 1', 'Kiln'], last: { appliances: 'Range Ostra 4, serial 1' } },
    { appliances: 'old', count: '1' },
    {},
  );
  expect(tank.answers).toMatchObject({ appliances: 'Range Ostra 4, serial 1\nKiln', 'last-visit': 'Range Ostra 4, serial 1', count: '2' });
  const main = firstAnswers(procedureOf('water-main-make-up'), { ...nobody, rated: ['Hydrant 250 psi -6 ft'] }, undefined, {});
  expect(main.answers.components).toBe('Hydrant 250 psi -6 ft');
  const line = {
    name: 'Returns',
    components: ['Return 1'],
    rated: [],
    last: { openings: 'Return 1\nReturn 2 hook' },
    beside: { trials: 'Return 1: Return 2' },
  };
  for (const id of ['pool-dye-static', 'pool-lines-pressure'])
    expect(firstAnswers(procedureOf(id), line, undefined, {}).answers).toMatchObject({ line: 'Returns', openings: line.last.openings });
  // The trials map the whole pool, whichever of its lines they were made on.
  expect(firstAnswers(procedureOf('pool-lines-pressure'), line, undefined, {}).answers.trials).toBe(line.beside.trials);
});

test('the schedule tells the largest pipe', () => {
  expect(answersOfPipes(gas, '22cu 6\n15cu 3')).toEqual({ pipe: '<=28' });
  expect(answersOfPipes(gas, '35cu 6')).toEqual({ pipe: '>28-35' });
  expect(answersOfPipes(gas, '54cu 6')).toEqual({ pipe: '>35' });
  expect(answersOfPipes(gas, '22cu')).toEqual({});
  // Of water it tells the pipe, where its words leave no choice.
  for (const id of ['heating-hydraulic', 'water-isolation-hold']) {
    const told = (pipes: string) => answersOfPipes(procedureOf(id), pipes).pipe;
    expect([told('22cu 6\n15cu 3'), told('20dn 6'), told('22cu 6\n16x2pex 3'), told('16x2pex 3')]).toEqual([
      'copper',
      'steel',
      undefined,
      undefined,
    ]);
  }
  expect(answersOfPipes(gas, '')).toEqual({});
});

test.each([
  ['vehicle-water-air', {}],
  ['propane-vehicle', {}],
  ['water-isolation-hold', {}],
  ['heating-hydraulic', { air: 'no' }],
  ['underfloor-manifold', {}],
  ['refrigerant-nitrogen', {}],
  ['gas-piping-psi', { building: 'single dwelling' }],
])('%s can be planned by whoever does not know the volume; no rate is claimed then', (id, answers) => {
  const example = exampleFor(id, { answers });
  const planned = planTest({ ...example, pipes: '', statedVolume: '' });
  expect(planned.ok || planned.problems).toBe(true);
  if (!planned.ok) return;
  expect(planned.value.plan.volume.how).toBe('unknown');
  for (const part of planned.value.plan.sight) expect(part.sure).toBeUndefined();
  expect(planned.value.advice.every((one) => !/Stored energy \d/.test(typeof one === 'string' ? one : one.beware))).toBe(true);
});

test.each([
  ['gas-leak-rate', {}],
  ['domestic-gas-millibar', {}],
  ['gas-piping-psi', { building: 'other' }],
  ['heating-hydraulic', { air: 'yes' }],
])('%s asks for the volume where it decides', (id, answers) => {
  const planned = planTest({ ...exampleFor(id, { answers }), pipes: '', statedVolume: '' });
  expect(planned.ok ? [] : planned.problems.map(({ code }) => code)).toEqual(['volume-missing']);
});

test.each([
  ['3/4cu 10ft', 'cu-inch', '3/4'],
  ['1/2in pex 20ft', 'pex-inch', '1/2'],
  ['1-1/2pvc 12 ft', 'sch40', '1-1/2'],
  ['1 1/2" pvc 12ft', 'sch40', '1-1/2'],
  ['16x2mlcp 8', 'pex', '16x2'],
  ['16x2pert 8', 'pex', '16x2'],
  ['1cu 10ft', 'cu-inch', '1'],
  ['22cu 6.5', 'cu', '22'],
  ['22mm copper 6,5', 'cu', '22'],
  ['1sch40 40ft', 'sch40', '1'],
  ['20dn 3', 'steel', '20'],
])('pipe is read as people write it: %s', (line, material, size) => {
  expect(parsePipeLine(line)).toMatchObject({ ok: true, value: { material, size } });
});

test('openings with their number before them are so many', () => {
  expect(parseOpenings('8 return jets hook').openings.map(({ name, kind }) => [name, kind])).toEqual(
    Array.from({ length: 8 }, (_, index) => [`return jet ${index + 1} hook`, 'hook']),
  );
  expect(parseOpenings('2 skimmers\nMain drain').openings.map(({ name }) => name)).toEqual(['skimmer 1', 'skimmer 2', 'Main drain']);
  expect(parseOpenings('2 in return').openings.map(({ name }) => name)).toEqual(['2 in return']);
});
