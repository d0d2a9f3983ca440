import fc from 'fast-check';
import { misfit } from '../exact/fit';
import type { Shape } from '../exact/shape';
import type { Plan } from '../planning/plan';
import { procedures } from '../procedures';
import { present } from '../running';
import { exampleEvents, examplePlan } from '../simulation/examples.fixture';
import { scenariosFor } from '../simulation/plants';
import { sentenceOf, workingOf } from './catalogue';
import { eventSchema, type RunEvent } from './events';
import { judge } from './judge';

/* Whatever the door lets through, the core bears: no record that can be read makes it throw. */

type Properties = Readonly<Record<string, Shape<unknown>>>;
/** A kind of event with its fields; a kind of two forms stands here twice. */
const branches: readonly Shape<unknown>[] = (eventSchema.oneOf as readonly Shape<unknown>[]).flatMap((one) =>
  Array.isArray(one.anyOf) ? (one.anyOf as readonly Shape<unknown>[]) : [one],
);
const propertiesOf = (branch: Shape<unknown>) => branch.properties as Properties;
const typeOf = (branch: Shape<unknown>) => String(propertiesOf(branch).type.const);

const texts = [
  '',
  'x',
  '0',
  '-0',
  '20.50',
  '-20.5',
  '9'.repeat(30),
  '0.000000001',
  'f'.repeat(64),
  'a0000000-0000-4000-8000-000000000001',
  'ü<b>',
];

/** Any value that fits a shape, the edges of its range first; names are mostly those of the plan. */
function fitting(shape: Shape<unknown>, names: readonly string[]): fc.Arbitrary<unknown> {
  if ('const' in shape) return fc.constant(shape.const);
  if (Array.isArray(shape.enum)) return fc.constantFrom(...shape.enum);
  const either = shape.anyOf ?? shape.oneOf;
  if (Array.isArray(either)) return fc.oneof(...either.map((one) => fitting(one as Shape<unknown>, names)));
  switch (shape.type) {
    case 'string': {
      const good = [...names, ...texts].filter((text) => misfit(shape, text) === undefined);
      return fc.constantFrom(...good);
    }
    case 'integer': {
      const [least, most] = [Number(shape.minimum), Number(shape.maximum)];
      const near = [0, 1, 2, 60_000, 1_767_603_600_000].filter((one) => one >= least && one <= most);
      return fc.oneof(fc.constantFrom(least, most, ...near), fc.integer({ min: least, max: most }));
    }
    case 'boolean':
      return fc.boolean();
    case 'array':
      return fc.array(fitting(shape.items as Shape<unknown>, names), {
        minLength: Number(shape.minItems ?? 0),
        maxLength: Math.min(5, Number(shape.maxItems)),
      });
    default:
      return fc.record(Object.fromEntries(Object.entries(propertiesOf(shape)).map(([key, one]) => [key, fitting(one, names)])), {
        requiredKeys: [...(shape.required as readonly string[])],
      });
  }
}

const namesOf = (plan: Plan): readonly string[] => [
  ...plan.phases.flatMap((phase) => [
    phase.id,
    ...(phase.kind === 'check' ? phase.items.map(({ id }) => id) : []),
    ...(phase.kind === 'observe' ? phase.options.map(({ id }) => id) : []),
    ...(phase.kind === 'measure' ? phase.points.map(({ id }) => id) : []),
  ]),
  'device-1',
];

/** Judged, put into words and shown: none of it may throw. */
function bears(plan: Plan, events: readonly RunEvent[]): void {
  const judgement = judge(plan, events);
  for (const finding of judgement.reasons) expect(typeof sentenceOf(finding)).toBe('string');
  for (const finding of judgement.reasons) workingOf(finding);
  present(plan, judgement, events, 1_767_603_700_000);
}

const plans = procedures.map(({ id }) => examplePlan(id));

describe.each(branches.map((branch) => [typeOf(branch), branch] as const))('%s', (_, branch) => {
  const plan = plans[0];
  const events = exampleEvents(plan, 'sound');
  const whole = fc.sample(fitting(branch, namesOf(plan)), { numRuns: 1, seed: 11 })[0] as Readonly<Record<string, unknown>>;
  const full = { ...whole } as Record<string, unknown>;
  for (const [key, one] of Object.entries(propertiesOf(branch)))
    if (!(key in full)) full[key] = fc.sample(fitting(one, namesOf(plan)), { numRuns: 1, seed: 11 })[0];

  test('fits; without a field that it needs, or with one more, it does not', () => {
    expect(misfit(eventSchema, full)).toBeUndefined();
    for (const key of branch.required as readonly string[]) {
      const { [key]: _gone, ...rest } = full;
      expect({ key, refused: misfit(eventSchema, rest) !== undefined }).toEqual({ key, refused: true });
    }
    expect(misfit(eventSchema, { ...full, colour: 'red' })).toMatch(/colour/);
  });

  test('every field damaged in every way is refused, or borne', () => {
    const damage: readonly unknown[] = [
      null,
      '',
      'x',
      ' 1',
      '1e5',
      'NaN',
      -1,
      0.5,
      Number.NaN,
      1e300,
      true,
      [],
      {},
      ['x'],
      'x'.repeat(100_000),
    ];
    let refused = 0;
    for (const key of Object.keys(propertiesOf(branch)))
      for (const value of damage) {
        const damaged = { ...full, [key]: value };
        if (misfit(eventSchema, damaged) === undefined)
          bears(plan, [...events.slice(0, 20), damaged as unknown as RunEvent, ...events.slice(20)]);
        else refused += 1;
      }
    expect(refused).toBeGreaterThanOrEqual(8 * Object.keys(propertiesOf(branch)).length);
  });
});

test('no readable log makes the judge, its words or the screen throw', () => {
  const logs = plans.flatMap((plan) => scenariosFor(plan).map(({ id }) => ({ plan, events: exampleEvents(plan, id) })));
  const anyLog = fc.constantFrom(...logs).chain(({ plan, events }) =>
    fc.record({
      plan: fc.constant(plan),
      events: fc
        .tuple(
          fc.shuffledSubarray([...events], { minLength: 0 }),
          fc.nat({ max: events.length }),
          fc.array(fc.oneof(...branches.map((branch) => fitting(branch, [...namesOf(plan), events[0].run, events[0].device]))), {
            maxLength: 12,
          }),
        )
        .map(([shuffled, kept, foreign]) => [...events.slice(0, kept), ...(foreign as readonly RunEvent[]), ...shuffled]),
    }),
  );
  fc.assert(
    fc.property(anyLog, ({ plan, events }) => bears(plan, events)),
    { numRuns: Number(process.env.VAST_PROPERTY_RUNS ?? 300) },
  );
});
