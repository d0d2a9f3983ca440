import type { MeasureCriterion } from '../../course/phases';
import { openingArea } from '../../physics/static-head';
import { decimal, fromSi, good, type LengthUnit, negate, type Problem, type Result, toText } from '../../quantities';
import type { Instrument } from '../../sizing/gauge';
import { optionalIn, quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  ball: ['low', 'in-order', 'high'],
  fill: 'check',
  settle: 'wait',
  hold: 'no-fall',
  'far-side': ['dry', 'water'],
  'ball-after': ['low', 'in-order', 'high'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, getReady, holdPhase, look, makeSafeList, measurePhase, on, restoreList, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'threshold', label: 'Perceptible fall', value: '1', unit: 'mm', stricter: 'lower', bound: '0.5' },
  { id: 'settle-seconds', label: 'Level settles for', value: '300', unit: 's', stricter: 'higher', bound: '3600' },
  { id: 'hold-seconds', label: 'Level hold', value: '1200', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'ball-share', label: 'Ball may let go of', value: '10', unit: '%', stricter: 'lower', bound: '2' },
  { id: 'level', label: 'Level on the rule after filling', value: '200', unit: 'mm', stricter: 'higher', bound: '1000' },
] as const satisfies Figures;

/** Drain level hold with a test ball (DOMAIN 3.9, 5.8). */

const parameters = [
  askChoice(
    'opening',
    'An indoor opening below the fill level',
    [
      ['none', 'None: looked for'],
      ['some', 'There is one'],
    ],
    'It would flood indoors.',
  ),
  askQuantity('bore', 'Riser’s bore', 'length', 'mm', '100', ['30', '400'], 'Of the open pipe in which the level is read.'),
  askQuantity('risers', 'Open risers', 'count', 'pcs', '1', ['1', '20'], 'Their areas add: more of them hide a loss.'),
  askQuantity(
    'ball',
    'Pressure at the ball',
    'pressure',
    'psi',
    '45',
    ['10', '60'],
    'As the ball’s maker rates it; about 45 psi is usual.',
  ),
  askChoice(
    'read',
    'How the level is read',
    [
      ['height', 'Height on a rule: it sinks with the water'],
      ['dip', 'Dip from the rim: it grows as the water sinks'],
    ],
    'A dip is kept as a level below the rim, so 35 is −35 mm.',
  ),
  askChoice(
    'beside',
    'Together with the water isolation hold',
    [
      ['no', 'No'],
      ['yes', 'Yes, side by side'],
    ],
    'Then the drain is filled before the supply is shut.',
  ),
] as const satisfies Asked;
const asked = { parameters };

/** A rule that is held to the rim: the same figures, below it. */
const below = (text: string): string => toText(negate(decimal(text)));
const fromRim = (rule: Instrument<LengthUnit>): Instrument<LengthUnit> => ({
  ...rule,
  rangeLow: below(rule.rangeHigh),
  rangeHigh: below(rule.rangeLow),
});

function course({ answers, figure, gauge, instruments }: Input): Result<Course> {
  const isDip = answers.read === 'dip';
  const named = instruments.rule as Instrument<LengthUnit>;
  const rule = isDip ? fromRim(named) : named;
  const band = isDip ? { low: '-5000', high: '0' } : { low: '1', high: '5000' };
  const threshold = figure('threshold');
  const holdSeconds = Number(figure('hold-seconds'));
  const ball = fromSi(quantityIn(asked, answers, 'ball'), 'psi');
  const area = openingArea(quantityIn(asked, answers, 'bore'));
  if (!area.ok) return area;
  const risers = optionalIn(asked, answers, 'risers', 'pcs') ?? 1;
  const inflated: MeasureCriterion = {
    kind: 'in-bands',
    unit: 'psi',
    bands: {
      steps: [
        { below: (ball * (1 - Number(figure('ball-share')) / 100)).toFixed(1), outcome: 'low' },
        { below: (ball * 1.1).toFixed(1), outcome: 'in-order' },
      ],
      beyond: 'high',
    },
    worst: ['high', 'low'],
  };
  const ballPoint = [{ id: 'ball', label: 'Ball', aim: ball.toFixed(1) }];
  const ballField = [{ quantity: 'pressure', label: 'Pressure at the ball' }] as const;

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('told', 'Occupants told: no water and no flushing until you say so'),
        step('below', 'No indoor opening lies below the fill level; somebody watches the lowest one'),
        step('low', 'Lowest fixtures watched for water'),
        step('rope', 'Ball on its chain or rope, hose turned clockwise only, so that it does not come off and get lost'),
      ],
      ['flood', 'sewer'],
    ),
    zeroGauge(gauge.readability, 'Ball’s gauge open to the air: read it. It must show zero.'),
    measurePhase({
      id: 'ball',
      title: 'Set the ball',
      say: `Set the ball between the two-way cleanouts, blow it up to ${ball} psi, and read its gauge.`,
      cautions: ['ball'],
      fields: ballField,
      points: ballPoint,
      limit: inflated,
      restartFrom: 'ball',
    }),
    {
      ...getReady(
        [
          edge('ball-edge', 'Ball seated: it does not move when the hose is pulled', { plugged: 'Seated' }),
          step(
            'fill',
            'Filled to slab level; the hose never below the water, so that nothing is drawn back into the supply',
            isDip ? {} : { to: `${figure('level')} mm` },
          ),
          step('past', 'Looked past the ball while it filled: no water comes by it'),
          step('hose', answers.beside === 'yes' ? 'Hose off; gauge on its tap, read; the supply shut, both clocks ready' : 'Hose off'),
        ],
        ['backflow'],
        'Fill, and take the hose off.',
      ),
      id: 'fill',
      title: 'Fill',
      when: after('ball', 'in-order'),
    },
    holdPhase({
      id: 'settle',
      title: 'Let it settle',
      purpose: 'settle',
      instrument: 'rule',
      unit: 'mm',
      when: after('fill', 'done'),
      say: `${isDip ? 'Read the dip from the rim down to the water' : 'Read the level on the rule'}. Let air out and the water come to rest; top up if it sinks away.`,
      band,
      seconds: Number(figure('settle-seconds')),
      limit: { kind: 'wait' },
      restartFrom: 'settle',
    }),
    holdPhase({
      id: 'hold',
      title: 'Level hold',
      purpose: 'tightness',
      instrument: 'rule',
      unit: 'mm',
      when: after('settle', 'settled'),
      say: `${isDip ? 'Read the dip from the same place on the rim' : 'Mark the level and read it'}. Nobody uses water until it is due.`,
      band,
      seconds: holdSeconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'settle',
    }),
    look(
      'far-side',
      'Look on the far side',
      'Look on the far side of the ball: does water come past it?',
      [
        ['dry', 'Dry'],
        ['water', 'Water passes the ball'],
      ],
      { when: after('hold', 'tight', 'fall') },
    ),
    measurePhase({
      id: 'ball-after',
      title: 'Read the ball again',
      say: 'Read the ball’s gauge again before anything is let down.',
      when: after('far-side', 'dry'),
      fields: ballField,
      points: ballPoint,
      limit: inflated,
      restartFrom: 'ball-after',
    }),
    restoreList(
      [
        step('down', 'Water let off slowly, nobody at the cleanout; ball let down while the hose is held'),
        step('out', 'Ball out, whole'),
        step('caps', 'Caps back loosely, so that a blockage lifts them outdoors rather than flooding indoors'),
        step('runs', 'Water run and flushed, seen to drain'),
      ],
      ['ball'],
    ),
    makeSafeList(
      [
        step('down', 'Water let off slowly; ball let down and out'),
        step('caps', 'Caps back, loosely'),
        stepIf('told', 'Occupants told what was found'),
      ],
      ['ball'],
    ),
  ];

  return good(
    card.course({
      filled: 'water',
      unit: 'psi',
      phases,
      highest: String(Math.ceil(ball)),
      limit: '2',
      instruments: { rule },
      demands: { rule: { highest: isDip ? '0' : '1', limit: threshold, unit: 'mm' } },
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: 'the drain behind the ball, up to the level',
          contents: { kind: 'level', squareCm: (area.value * risers * 1e4).toFixed(3) },
          unit: 'L/h',
          longer: { figure: 'hold-seconds' },
        },
      ],
      boundaries: [{ id: 'ball-edge', label: 'Test ball', beyond: 'The drain downstream of the ball', inside: true }],
      conclusions: [
        { when: after('ball', 'low', 'high'), verdict: 'inconclusive', reason: 'pressure-off', about: 'ball' },
        { when: after('far-side', 'water'), verdict: 'invalid', reason: 'ball-passes' },
        { when: after('ball-after', 'low', 'high'), verdict: 'inconclusive', reason: 'ball-lost', about: 'ball-after' },
        {
          when: [[on('hold', 'fall'), on('ball-after', 'in-order')]],
          verdict: 'fail',
          reason: 'level-fell',
          about: 'hold',
        },
        {
          when: [[on('hold', 'tight'), on('ball-after', 'in-order')]],
          verdict: 'pass',
          reason: 'level-held',
          about: 'hold',
        },
      ],
      derivation: [
        `A fall of ${threshold} mm in ${Math.round(holdSeconds / 60)} min is a leak; the finest step of a rule is a movement.`,
        `The ball is held at ${ball} psi; if it lets go of more than ${figure('ball-share')} % the run says nothing.`,
      ],
      notTested: [
        'The drain downstream of the ball',
        'Pipes above the fill level',
        'How the pipe looks inside: a camera shows that, and proves no tightness',
      ],
      advice: [
        'Every open riser adds its area, and a branch with a large free surface hides the fall.',
        ...(answers.beside === 'yes'
          ? ['Order with the isolation hold: fill, hose off, gauge on and read, supply shut, both clocks.']
          : []),
      ],
    }),
  );
}

const outOfScope = (answers: Input['answers']): readonly Problem[] =>
  answers.opening === 'some'
    ? [
        {
          code: 'scope-opening',
          field: 'opening',
          message: 'An indoor opening below the fill level would flood. Plug it first, or test to a level below it.',
        },
      ]
    : [];

export const drainLevel: Procedure = {
  id: 'drain-level-hold',
  version: '1',
  title: 'Drain level hold',
  school: 'Standing-level school',
  purpose: 'Shows whether the drains under a slab hold standing water, with a ball set in the outgoing pipe.',
  systemKinds: ['drain'],
  plant,
  medium: 'water, standing',
  volumeFrom: 'answers',
  presumed: ['beside'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['opening', 'beside'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [{ role: 'rule', label: 'Rule or level mark', quantity: 'length', needed: () => true }],
  parameters,
  figures,
  carriedOnce: ['test ball'],
  ...sheet,
  outOfScope,
  course,
  phases: card.names,
  example,
  faults,
  breaches,
};
