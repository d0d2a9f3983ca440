import { decimalsOf, fromSi, good, type Result, type Unit, unitLabel } from '../../quantities';
import { gasIn } from '../../sizing/gas-hold';
import { optionalIn, quantityIn, typedIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity, askText } from '../questions';
import { example } from './example';
import { faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** The rig alone: hose, tee, valve and gauge, or a duct fan with its connector (DOMAIN 5.18). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  hold: 'no-fall',
  soap: ['rig', 'cap', 'nothing'],
  fan: 'recorded',
  shown: ['flow', 'nothing'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, getReady, holdPhase, look, makeSafeList, measurePhase, restoreList, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'hold-seconds', label: 'Hold', value: '180', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'raise-above', label: 'Raised above the test pressure by at most', value: '5', unit: '%', stricter: 'lower', bound: '1' },
  { id: 'coarsest', label: 'Gauge’s step at most, of the pressure', value: '2', unit: '%', stricter: 'lower', bound: '0.1' },
] as const satisfies Figures;

const ofHose = { askedFor: { answer: 'kind', is: ['hose'] } };
const ofFan = { askedFor: { answer: 'kind', is: ['fan'] } };

const parameters = [
  askText('rig', 'Rig', 'As it is marked: the hose set or the fan that the next tests use.', false),
  askChoice('kind', 'What it is', [
    ['hose', 'Hose, tee, valve and gauge'],
    ['fan', 'Duct fan with its connector'],
  ]),
  askQuantity(
    'pressure',
    'Pressure of the test to come',
    'pressure',
    'bar',
    '1',
    ['0.0005', '100'],
    'The highest that this rig is to see.',
    ofHose,
  ),
  askQuantity(
    'threshold',
    'Movement that test calls perceptible',
    'pressure',
    'mbar',
    '',
    ['0.001', '100000'],
    'Left empty, one step of the gauge is a movement.',
    { ...ofHose, optional: true },
  ),
  askQuantity(
    'inside',
    'Volume inside the rig',
    'volume',
    'L',
    '0.1',
    ['0.001', '1000000'],
    'Two metres of hose hold about a tenth of a litre.',
    {
      ...ofHose,
      optional: true,
    },
  ),
  askQuantity(
    'fan-pressure',
    'Pressure at the blanked connector',
    'pressure',
    'Pa',
    '25',
    ['10', '500'],
    'By pressure, since suction closes pinholes. Higher where the ring shows nothing at 25 Pa.',
    ofFan,
  ),
] as const satisfies Asked;
const asked = { parameters };

/** A pressure as it was typed where the gauge has its unit, else in the gauge's own, to a step of it. */
function onGauge(answers: Input['answers'], id: 'pressure' | 'threshold' | 'fan-pressure', unit: Unit, readability: string): string {
  const typed = typedIn(asked, answers, id);
  return typed.unit === unit ? typed.value : fromSi(quantityIn(asked, answers, id), unit).toFixed(decimalsOf(readability));
}

function course(input: Input): Result<Course> {
  return input.answers.kind === 'fan' ? fanCourse(input) : hoseCourse(input);
}

const closing = (what: string) => [
  restoreList([step('down', `Pressure let down; ${what}`), stepIf('marked', 'Date marked on the rig')]),
  makeSafeList([
    step('down', `Pressure let down; ${what}`),
    step('apart', 'Rig set apart and labelled until it is mended: no test is charged to a system with it'),
  ]),
];

function hoseCourse({ answers, figure, gauge }: Input): Result<Course> {
  const pressure = onGauge(answers, 'pressure', gauge.unit, gauge.readability);
  const share = 1 + Number(figure('raise-above')) / 100;
  const high = (Number(pressure) * share).toFixed(Math.max(decimalsOf(gauge.readability), decimalsOf(pressure)));
  const seconds = Number(figure('hold-seconds'));
  const finest = gauge.readability;
  const typed = (answers.threshold ?? '').trim() === '' ? undefined : onGauge(answers, 'threshold', gauge.unit, '0.000001');
  // To a millionth of the unit, and never above what was asked for: no gauge here shows less.
  const given = typed === undefined || decimalsOf(typed) <= 6 ? typed : Math.max(1e-6, Math.floor(Number(typed) * 1e6) / 1e6).toFixed(6);
  // Never finer than the gauge shows.
  const threshold = given !== undefined && Number(given) > Number(finest) ? given : finest;
  const coarsest = given ?? ((Number(pressure) * Number(figure('coarsest'))) / 100).toPrecision(2);
  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('alone', 'Hose, tee, valve and gauge alone, on no system'),
        edge('cap', 'Far end capped, the cap’s seal sound'),
        step('medium', 'The medium of the test to come; never oxygen, never fuel gas'),
        step('wear', 'Eye protection on; hose secured against whip'),
      ],
      ['energy'],
      'Put the rig together as the test will use it, and cap its far end.',
    ),
    zeroGauge(gauge.readability),
    holdPhase({
      id: 'hold',
      title: 'Hold the rig',
      purpose: 'tightness',
      cautions: ['energy'],
      when: after('zero', 'zeroed'),
      say: 'Raise slowly to the pressure of the test to come, shut the rig’s valve, disconnect the supply, and read the gauge.',
      band: { low: pressure, high },
      seconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'hold',
    }),
    look(
      'soap',
      'Soap the rig',
      'The gauge fell. Soap hose, tee, valve, the gauge’s joint, and the cap by itself.',
      [
        ['nothing', 'Nothing found'],
        ['rig', 'Bubbles on the rig'],
        ['cap', 'Bubbles at the cap alone'],
      ],
      { when: after('hold', 'fall') },
    ),
    ...closing('rig apart, cap off'),
  ];
  return good(
    card.course({
      filled: 'gas',
      unit: gauge.unit,
      phases,
      highest: high,
      limit: coarsest,
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: 'the rig',
          contents: gasIn(optionalIn(asked, answers, 'inside', 'L') ?? 0.1),
          unit: 'L/h',
          longer: { figure: 'hold-seconds' },
        },
      ],
      boundaries: [{ id: 'cap', label: 'Cap at the far end', beyond: 'Nothing: this is an end', inside: true }],
      conclusions: [
        { when: after('soap', 'cap'), verdict: 'inconclusive', reason: 'cap-leaks' },
        { when: after('soap', 'rig', 'nothing'), verdict: 'fail', reason: 'rig-fell', about: 'hold' },
        { when: after('hold', 'tight'), verdict: 'pass', reason: 'rig-held', about: 'hold' },
      ],
      derivation: [
        `${answers.rig}: raised to ${pressure} ${unitLabel(gauge.unit)}, the pressure of the test to come, and at most ${figure('raise-above')} % above it.`,
        `From ${threshold} ${unitLabel(gauge.unit)} on a fall is a movement; none is permitted in ${Math.round(seconds / 60)} min.`,
      ],
      notTested: ['The joint that the rig makes with a system', 'Any system'],
    }),
  );
}

function fanCourse({ answers, gauge, instruments }: Input): Result<Course> {
  const aim = onGauge(answers, 'fan-pressure', gauge.unit, gauge.readability);
  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('alone', 'Fan and connector alone, on no duct'),
        edge('cap', 'Connector’s far end blanked, its edge taped', { plugged: 'Blanked and taped' }),
        step('hoses', 'Hoses dry and unkinked, on the right taps; the smallest ring fitted'),
      ],
      ['moving'],
      'Put fan and connector together as the test will use them, and blank the far end.',
    ),
    zeroGauge(gauge.readability, 'Fan stopped and covered: read the gauge. It must show zero.'),
    measurePhase({
      id: 'fan',
      title: 'Leakage of the fan',
      cautions: ['moving'],
      when: after('zero', 'zeroed'),
      say: 'Bring the blanked connector to the pressure, by pressure and not by suction, and read pressure and flow.',
      fields: [
        { quantity: 'pressure', label: 'Pressure in the connector' },
        { quantity: 'flow', label: 'Fan flow', instrument: 'flow' },
      ],
      points: [{ id: 'fan', label: `${aim} at the connector`, aim }],
      limit: { kind: 'recorded' },
      restartFrom: 'fan',
    }),
    look(
      'shown',
      'Did the ring show it?',
      'Below its range a ring shows nothing, which is no zero.',
      [
        ['flow', 'It showed a flow'],
        ['nothing', 'It showed nothing: next time at a higher pressure, or with a smaller ring'],
      ],
      { when: after('fan', 'recorded') },
    ),
    ...closing('blank off the connector'),
  ];
  return good(
    card.course({
      filled: 'gas',
      unit: gauge.unit,
      phases,
      highest: aim,
      limit: gauge.readability,
      instruments: { flow: instruments.flow },
      demands: { flow: { highest: '0', limit: '1000000', unit: 'CFM' } },
      judgedBy: 'fan',
      sees: [],
      sightSays: 'Nothing is judged: the fan’s own leakage is written down.',
      boundaries: [{ id: 'cap', label: 'Blank at the connector', beyond: 'Nothing: this is an end', inside: true }],
      conclusions: [
        { when: after('shown', 'nothing'), verdict: 'inconclusive', reason: 'rig-shows-nothing' },
        { when: after('shown', 'flow'), verdict: 'pass', reason: 'rig-measured' },
      ],
      derivation: [
        `${answers.rig}: its own leakage at ${aim} ${unitLabel(gauge.unit)}, brought back to 25 Pa by the exponent 0.6 where that was higher.`,
        'What the fan leaks is never taken off a duct’s leakage; it says what cannot be told apart.',
      ],
      notTested: ['Any duct'],
    }),
  );
}

export const rigCheck: Procedure = {
  id: 'rig-check',
  version: '1',
  title: 'Rig check',
  school: 'All schools',
  purpose: 'Shows what a test rig leaks by itself, so that a test with it knows. It never replaces soaping the rig in the test.',
  systemKinds: ['component', 'gas', 'propane', 'water', 'heating', 'water main', 'refrigerant', 'pool', 'duct'],
  plant,
  volumeFrom: 'answers',
  presumed: ['threshold', 'inside', 'fan-pressure'] satisfies readonly IdsOf<typeof parameters>[],
  medium: 'the medium of the test to come',
  roles: [{ role: 'flow', label: 'Fan’s flow meter', quantity: 'flow', needed: ({ kind }) => kind === 'fan' }],
  parameters,
  figures,
  ...sheet,
  phases: card.names,
  example,
  faults,
  course,
};
