import type { MeasurePoint } from '../../course/phases';
import { areaLimit, classExponent, classLeakage, type DuctClass, ductClasses } from '../../physics/duct-flow';
import { type FlowUnit, fromSi, good, type Problem, type Result, toSi, unitLabel } from '../../quantities';
import type { Instrument } from '../../sizing/gauge';
import { chooseRing } from '../../sizing/rings';
import { optionalIn, quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity, askText } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  points: 'flow-at-most',
  restore: 'check',
});
const { after, checkPhase, measurePhase, zeroPhase } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'reference', label: 'Reference pressure', value: '25', unit: 'Pa', stricter: 'higher', bound: '100' },
  { id: 'limit-total', label: 'Total leakage at the reference, per 100 ft²', value: '4', unit: 'CFM', stricter: 'lower', bound: '0.5' },
  { id: 'limit-no-handler', label: 'The same with no air handler fitted', value: '3', unit: 'CFM', stricter: 'lower', bound: '0.5' },
  { id: 'limit-outdoors', label: 'Leakage to outdoors, per 100 ft²', value: '8', unit: 'CFM', stricter: 'lower', bound: '0.5' },
] as const satisfies Figures;

/** Duct tightness: all ducts at one pressure, a fan that measures what they lose (DOMAIN 3.6, 5.16). */

const parameters = [
  askChoice(
    'school',
    'Limit by',
    [
      ['area', 'Floor area served'],
      ['class', 'Class and duct surface'],
    ],
    'Floor area at 25 Pa, or the class of the ducts by their surface.',
  ),
  askChoice(
    'rule',
    'What is measured',
    [
      ['total', 'Total leakage, air handler fitted'],
      ['no-handler', 'Total leakage, no air handler fitted'],
      ['outdoors', 'Leakage to outdoors'],
      ['own', 'Own limit'],
    ],
    'Sets the limit for each 100 ft² of floor.',
    { askedFor: { answer: 'school', is: ['area'] } },
  ),
  askQuantity('floor', 'Floor area served', 'area', 'ft2', '400', ['20', '500000'], 'Conditioned floor that these ducts serve.', {
    askedFor: { answer: 'rule', is: ['total', 'no-handler', 'outdoors'] },
  }),
  askQuantity(
    'own-limit',
    'Own limit at the reference',
    'flow',
    'CFM',
    '',
    ['0.5', '100000'],
    'The whole permitted flow, as the specification gives it.',
    { optional: true, askedFor: { answer: 'rule', is: ['own'] } },
  ),
  {
    kind: 'choice',
    id: 'class',
    askedFor: { answer: 'school', is: ['class'] },
    label: 'Class',
    help: 'A is the loosest, D the tightest.',
    usual: 'C',
    options: Object.keys(ductClasses).map((value) => ({ value, label: `Class ${value}` })),
  },
  askQuantity('surface', 'Duct surface', 'area', 'm2', '40', ['1', '50000'], 'Of the part under test.', {
    askedFor: { answer: 'school', is: ['class'] },
  }),
  askQuantity('class-pressure', 'Test pressure of the class', 'pressure', 'Pa', '400', ['50', '2500'], 'As the specification gives it.', {
    askedFor: { answer: 'school', is: ['class'] },
  }),
  askChoice(
    'points',
    'Points',
    [
      ['two', 'Reference and half of it'],
      ['five', 'Five points'],
    ],
    'Two prove the set-up; five give the leakage with its interval.',
  ),
  askQuantity(
    'baseline',
    'Rig’s own leakage at the reference',
    'flow',
    'CFM',
    '',
    ['0', '1000'],
    'Measured with the rig blanked off, by pressure and not by suction. It is never subtracted. A rig check of this fan stands before it. Left empty: not measured.',
    { optional: true },
  ),
  askText('baseline-date', 'Rig measured on', 'Date of that measurement.', true),
] as const satisfies Asked;
const asked = { parameters };

interface Limit {
  readonly referencePa: string;
  readonly unit: FlowUnit;
  /** Rounded down to a hundredth, never in the ducts' favour. */
  readonly limit: string;
  readonly why: readonly string[];
}

const down = (value: number): string => (Math.floor(value * 100 + 1e-6) / 100).toFixed(2);

function limitOf(answers: Input['answers'], figure: Input['figure']): Result<Limit> {
  if (answers.school === 'class') {
    const pa = quantityIn(asked, answers, 'class-pressure');
    const surface = quantityIn(asked, answers, 'surface');
    const rate = classLeakage(answers.class as DuctClass, pa);
    if (!rate.ok) return rate;
    const limit = down(fromSi(rate.value * surface, 'L/s'));
    return good({
      referencePa: String(Math.round(pa)),
      unit: 'L/s',
      limit,
      why: [
        `Class ${answers.class}: ${ductClasses[answers.class as DuctClass]} × ${Math.round(pa)}^${classExponent} = ${fromSi(rate.value, 'L/s').toFixed(4)} L/s for each m² of duct; ${surface.toFixed(1)} m² permit ${limit} L/s.`,
      ],
    });
  }
  const referencePa = figure('reference');
  const own = answers.rule === 'own' ? optionalIn(asked, answers, 'own-limit', 'CFM') : undefined;
  if (own !== undefined)
    return good({ referencePa, unit: 'CFM', limit: down(own), why: [`The specification permits ${down(own)} CFM at ${referencePa} Pa.`] });
  const rate = figure(`limit-${answers.rule as 'total' | 'no-handler' | 'outdoors'}`);
  const floorM2 = quantityIn(asked, answers, 'floor');
  const limit = areaLimit(toSi(Number(rate), 'CFM') / toSi(100, 'ft2'), floorM2);
  if (!limit.ok) return limit;
  const cfm = down(fromSi(limit.value, 'CFM'));
  return good({
    referencePa,
    unit: 'CFM',
    limit: cfm,
    why: [`${rate} CFM at ${referencePa} Pa for each 100 ft²; ${fromSi(floorM2, 'ft2').toFixed(0)} ft² permit ${cfm} CFM.`],
  });
}

/** Fractions of the reference pressure, highest first: the fan is throttled down from point to point. */
const fractions = { two: [1, 0.5], five: [2, 1.4, 1, 0.7, 0.5] } as const;

function pointsOf(answers: Input['answers'], referencePa: string, unit: Instrument['unit'], decimals: number): readonly MeasurePoint[] {
  const list = fractions[answers.points === 'five' ? 'five' : 'two'];
  return list.map((fraction, index) => {
    const aim = fromSi(Number(referencePa) * fraction, unit).toFixed(decimals);
    const what = fraction === 1 ? 'reference' : fraction === 0.5 ? 'half of it' : `point ${index + 1}`;
    return { id: `p${index + 1}`, label: `${aim} ${unitLabel(unit)}, ${what}`, aim };
  });
}

function course({ answers, figure, gauge, instruments }: Input): Result<Course> {
  const fan = instruments.flow as Instrument<FlowUnit>;
  const found = limitOf(answers, figure);
  if (!found.ok) return found;
  const { referencePa, unit, limit, why } = found.value;
  // What its own check measured stands before what somebody remembers of it.
  const known = fan.rigCheck?.what === 'leaks' ? fan.rigCheck : undefined;
  const atReference = known === undefined ? 0 : toSi(Number(known.value), known.unit) * (Number(referencePa) / 25) ** 0.6;
  const baseline = (known === undefined ? (optionalIn(asked, answers, 'baseline', unit) ?? 0) : fromSi(atReference, unit)).toFixed(2);
  const measuredOn = known?.on ?? (answers['baseline-date'] ?? '').trim();
  const decimals = (gauge.readability.split('.')[1] ?? '').length;
  const points = pointsOf(answers, referencePa, gauge.unit, decimals);
  const highest = String(Number(referencePa) * (answers.points === 'five' ? 2 : 1));
  const ring = { lowM3s: toSi(Number(fan.rangeLow), fan.unit), highM3s: toSi(Number(fan.rangeHigh), fan.unit) };
  const expected = chooseRing([ring], toSi(Number(limit), unit), Number(referencePa));

  const phases: readonly PhaseIn<Names>[] = [
    checkPhase({
      id: 'prepare',
      title: 'Set up',
      cautions: ['moving'],
      say: 'Seal the registers, fit the fan and the hoses, and go through the list.',
      items: [
        step('sealed', 'Every register and grille sealed', { boundary: 'registers', plugged: 'Sealed' }),
        stepIf('handler', 'Air handler off and its door shut; filter out'),
        stepIf('fresh', 'Outside-air duct and dampers shut or sealed', { boundary: 'outside-air', plugged: 'Shut or sealed' }),
        step('fan', 'Fan at the cabinet or the return, the ring fitted, joint taped'),
        step('hoses', 'Hoses dry, unkinked, on the right taps; the duct’s tap far from the fan'),
        stepIf('house', 'A window open, so that the room stays at outdoor pressure'),
        stepIf('installer', 'Installer and sealing materials here, so that repair and retest share one visit'),
      ],
    }),
    zeroPhase({
      id: 'zero',
      title: 'Zero the gauge',
      say: 'Fan stopped and covered: read the gauge. It must show zero.',
      below: gauge.readability,
    }),
    measurePhase({
      id: 'points',
      title: 'Flow points',
      say: 'Bring the ducts to each pressure, wait until it stands, and read pressure and flow.',
      fields: [
        { quantity: 'pressure', label: 'Duct pressure' },
        { quantity: 'flow', label: 'Fan flow', instrument: 'flow' },
      ],
      points,
      limit: { kind: 'flow-at-most', limit, unit, reference: referencePa, baseline },
      restartFrom: 'points',
    }),
    checkPhase({
      id: 'restore',
      title: 'Restore',
      closing: true,
      afterStop: true,
      say: 'Put everything back. The test stays open until this list is done.',
      items: [
        step('unsealed', 'Every seal off every register, counted'),
        step('refit', 'Fan and hoses off; panel, filter and dampers back'),
        stepIf('runs', 'Air handler runs, air comes from the registers'),
      ],
    }),
  ];

  return good(
    card.course({
      filled: 'gas',
      unit: 'Pa',
      phases,
      highest,
      // A tenth of the lowest pressure must be told for the half-pressure check to mean anything.
      limit: String(Math.max(0.1, Number((Number(referencePa) / 20).toFixed(1)))),
      instruments: { flow: fan },
      demands: { flow: { highest: limit, limit, unit } },
      judgedBy: 'points',
      sees: [{ phase: 'points', what: 'the ducts', contents: { kind: 'flow' }, unit }],
      boundaries: [
        {
          id: 'registers',
          label: 'Seals on registers and grilles',
          beyond: 'The registers themselves and their joint with the wall',
          inside: true,
        },
        { id: 'outside-air', label: 'Outside-air duct', beyond: 'The outside-air duct' },
      ],
      conclusions: [
        { when: after('points', 'over'), verdict: 'fail', reason: 'duct-over', about: 'points' },
        { when: after('points', 'within-rig'), verdict: 'inconclusive', reason: 'duct-within-rig', about: 'points' },
        { when: after('points', 'within'), verdict: 'pass', reason: 'duct-within', about: 'points' },
      ],
      derivation: [
        ...why,
        Number(baseline) > 0
          ? `The rig’s own leakage is ${baseline} ${unitLabel(unit)}${measuredOn === '' ? '' : `, measured on ${measuredOn}`}: over the limit by no more than that cannot be told from the rig.`
          : 'The rig’s own leakage was not measured: all that is measured is charged to the ducts.',
        'A flow that is not shown is below the ring’s range, never zero.',
      ],
      notTested: [
        'What each duct would lose at its own working pressure: all are at one pressure here',
        'The air handler’s own cabinet, where it is not fitted',
      ],
      advice: [
        ...(expected.ok
          ? expected.value.pressurePa > Number(referencePa)
            ? [
                `A flow at the limit lies under this ring’s range: raise to about ${expected.value.pressurePa} Pa and let the result be brought back, or fit a smaller ring.`,
              ]
            : []
          : [expected.problem.message]),
        'Smoke shows the places while the ducts are still exposed. Not suited to finished houses, where ducts are hidden.',
      ],
    }),
  );
}

function outOfScope(answers: Input['answers']): readonly Problem[] {
  const problems: Problem[] = [];
  if (answers.school === 'area' && answers.rule === 'own' && (answers['own-limit'] ?? '').trim() === '')
    problems.push({ code: 'own-limit-missing', field: 'own-limit', message: 'Give the permitted flow, as the specification has it.' });
  if ((optionalIn(asked, answers, 'baseline', 'CFM') ?? 0) > 0 && (answers['baseline-date'] ?? '').trim() === '')
    problems.push({
      code: 'baseline-undated',
      field: 'baseline-date',
      message: 'Give the date on which the rig’s own leakage was measured.',
    });
  return problems;
}

export const ductTightness: Procedure = {
  id: 'duct-tightness',
  version: '1',
  title: 'Duct tightness',
  school: 'One-pressure school',
  purpose:
    'Measures what a duct system loses with all its ducts at one pressure, against a limit. It says nothing of each duct at its own working pressure.',
  systemKinds: ['duct'],
  plant,
  medium: 'air',
  volumeFrom: 'answers',
  presumed: ['points', 'baseline', 'baseline-date'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [{ role: 'flow', label: 'Fan with its ring', quantity: 'flow', needed: () => true }],
  parameters,
  figures,
  ...sheet,
  outOfScope,
  course,
  phases: card.names,
  example,
  faults,
  breaches,
};
