import { good, type Problem, type Result } from '../../quantities';
import { gasIn } from '../../sizing/gas-hold';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Propane in a vehicle or small coach (DOMAIN 5.4). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  'lock-up': ['empty', 'low', 'within', 'over', 'stopped'],
  settle: 'wait',
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  bleed: 'wait',
  creep: 'no-rise',
  bubbles: ['dry', 'bubbles'],
  flow: ['low', 'in-order', 'high'],
  'smell-response': 'check',
  restore: 'check',
  'make-safe': 'check',
});
const { after, conclude, getReady, holdPhase, look, makeSafeList, measurePhase, on, restoreList, smellOfGas, soapTheRig, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'threshold', label: 'Perceptible movement', value: '0.1', unit: 'inH2O', stricter: 'lower', bound: '0.01' },
  { id: 'lock-up-empty', label: 'Lock-up: empty, shut or bad under', value: '9.5', unit: 'inH2O', stricter: 'higher', bound: '11' },
  { id: 'lock-up-usual', label: 'Lock-up: regulator to be checked under', value: '11', unit: 'inH2O', stricter: 'higher', bound: '13' },
  { id: 'lock-up-most', label: 'Lock-up never above', value: '14.3', unit: 'inH2O', stricter: 'lower', bound: '13' },
  { id: 'lock-up-seconds', label: 'Lock-up is watched for', value: '60', unit: 's', stricter: 'higher', bound: '3600' },
  { id: 'hold-low', label: 'Hold starts from', value: '6.5', unit: 'inH2O', stricter: 'higher', bound: '8' },
  { id: 'hold-high', label: 'Hold starts up to', value: '8.5', unit: 'inH2O', stricter: 'lower', bound: '7' },
  { id: 'settle-seconds', label: 'Gas settles for', value: '60', unit: 's', stricter: 'higher', bound: '3600' },
  { id: 'hold-seconds', label: 'Hold', value: '180', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'rise-noted', label: 'A rise is warming, and passes, under', value: '0.5', unit: 'inH2O', stricter: 'lower', bound: '0.1' },
  { id: 'feeds-to', label: 'A rise is the cylinder feeding, from', value: '10', unit: 'inH2O', stricter: 'lower', bound: '9' },
  { id: 'creep', label: 'A creep counts from', value: '0.5', unit: 'inH2O', stricter: 'lower', bound: '0.1' },
  { id: 'wait-seconds', label: 'Wait after bleeding to zero', value: '15', unit: 's', stricter: 'higher', bound: '600' },
  { id: 'creep-seconds', label: 'Creep is watched for', value: '180', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'flow-low', label: 'Flow pressure at half load from', value: '10.5', unit: 'inH2O', stricter: 'higher', bound: '11' },
  { id: 'flow-high', label: 'Flow pressure at half load to', value: '11.5', unit: 'inH2O', stricter: 'lower', bound: '11' },
] as const satisfies Figures;

const parameters = [
  askChoice(
    'regulators',
    'Regulator',
    [
      ['two-stage', 'Two-stage, about 11 in WC'],
      ['other', 'Another pressure'],
    ],
    'Another working pressure is outside this procedure.',
  ),
  askChoice(
    'cold',
    'The vehicle comes in',
    [
      ['at rest', 'At the temperature here'],
      ['from the cold', 'From the cold'],
    ],
    'A cold vehicle warms first: warming gas hides a fall.',
  ),
  askChoice(
    'flow',
    'Flow at half load too',
    [
      ['no', 'No'],
      ['yes', 'Yes'],
    ],
    'With about half of the appliances burning the regulator should hold its pressure.',
  ),
] as const satisfies Asked;

function course({ answers, figure, gauge, volume }: Input): Result<Course> {
  const threshold = figure('threshold');
  const limit = figure('lock-up-most');
  const holdSeconds = Number(figure('hold-seconds'));
  const [low, high] = [figure('hold-low'), figure('hold-high')];
  const flow = answers.flow === 'yes';
  const shut = on('creep', 'steady', 'fall');
  const held = on('hold', 'tight');

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('shut', 'Cylinder shut before any port or fitting is opened'),
        step('out', 'Nobody aboard lights anything; doors and roof vents open; batteries and charger off'),
        step('no-smell', 'No smell of gas now. If you smell gas, use “Smell of gas” instead'),
        step('off', 'Every burner, pilot and appliance off; the lighters of fridge and heater off'),
        ...(answers.cold === 'from the cold'
          ? [step('warmed', 'Warmed until vehicle and air agree; both temperatures written down', { write: 'Vehicle and air, °C' })]
          : []),
        edge('ends', 'Quick couplings and unused outlets plugged or capped', { mayNotApply: true }),
        step('gauge-side', 'Gauge at a burner orifice or test port, hose sound and tight'),
      ],
      ['licence', 'ignition'],
    ),
    zeroGauge(gauge.readability, 'Gauge off the hose: read it. It must show zero.'),
    holdPhase({
      id: 'lock-up',
      title: 'Lock-up',
      purpose: 'let-by',
      fed: true,
      say: `Open the cylinder slowly, let the regulator lock up, and read the gauge: about ${figure('lock-up-usual')} to 14, never above ${limit}.`,
      band: { low: '0', high: '60' },
      seconds: Number(figure('lock-up-seconds')),
      limit: {
        kind: 'at-most',
        limit,
        bands: {
          steps: [
            { below: figure('lock-up-empty'), outcome: 'empty' },
            { below: figure('lock-up-usual'), outcome: 'low' },
          ],
          beyond: 'within',
        },
      },
      restartFrom: 'lock-up',
    }),
    holdPhase({
      id: 'settle',
      title: 'Let it settle',
      purpose: 'settle',
      cautions: ['bleed'],
      when: after('lock-up', 'within'),
      say: 'Shut the cylinder. Bleed into the band with a hand on a burner valve: the gauge stays flat, then drops fast. If you go too far wait for the rebound; never reopen the cylinder.',
      band: { low, high },
      lowered: true,
      seconds: Number(figure('settle-seconds')),
      limit: { kind: 'wait' },
      restartFrom: 'settle',
    }),
    holdPhase({
      id: 'hold',
      title: 'Hold',
      purpose: 'tightness',
      when: after('settle', 'settled'),
      say: 'Read the gauge to start the hold. Touch nothing until it is due.',
      band: { low, high },
      lowered: true,
      seconds: holdSeconds,
      limit: { kind: 'no-fall', threshold, rise: { noted: figure('rise-noted'), feedsTo: figure('feeds-to') } },
      restartFrom: 'settle',
    }),
    soapTheRig('rig', 'hold', 'The gauge fell. Before this is charged to the vehicle, soap the hose, the tee and the test port.'),
    holdPhase({
      id: 'bleed',
      title: 'Bleed to zero',
      purpose: 'settle',
      cautions: ['bleed'],
      when: [[held]],
      say: 'Bleed to zero at a burner, shut it, and read the gauge. Wait before the creep is watched.',
      band: { low: '0', high: threshold },
      lowered: true,
      seconds: Number(figure('wait-seconds')),
      limit: { kind: 'wait' },
      restartFrom: 'bleed',
    }),
    holdPhase({
      id: 'creep',
      title: 'Creep of the cylinder valve',
      purpose: 'let-by',
      when: after('bleed', 'settled'),
      say: 'Everything shut: read the gauge. A rise is noted; half an inch means that the cylinder valve passes.',
      band: { low: '0', high: threshold },
      lowered: true,
      seconds: Number(figure('creep-seconds')),
      limit: { kind: 'no-rise', threshold: figure('creep') },
      restartFrom: 'bleed',
    }),
    look(
      'bubbles',
      'Soap what was disturbed',
      'Open the cylinder again and soap every fitting that was disturbed, the cylinder’s connection and the test port too.',
      [
        ['dry', 'No bubbles'],
        ['bubbles', 'Bubbles at a fitting'],
      ],
      { when: [[held, shut]] },
    ),
    ...(flow
      ? [
          measurePhase({
            id: 'flow',
            title: 'Flow at half load',
            fed: true,
            when: after('bubbles', 'dry'),
            cautions: ['ignition'],
            say: 'Burn about half of what the vehicle can burn, and read the gauge.',
            fields: [{ quantity: 'pressure', label: 'Pressure' }],
            points: [{ id: 'half-load', label: 'Half load' }],
            limit: {
              kind: 'in-bands',
              unit: 'inH2O',
              // The upper end itself is in order, so the band ends a tenth above it.
              bands: {
                steps: [
                  { below: figure('flow-low'), outcome: 'low' },
                  { below: (Number(figure('flow-high')) + 0.1).toFixed(1), outcome: 'in-order' },
                ],
                beyond: 'high',
              },
              worst: ['high', 'low'],
            },
            restartFrom: 'flow',
          }),
        ]
      : []),
    smellOfGas('Stop. Cylinder shut, no switches or flames, everyone out and away, and call the emergency number.'),
    restoreList(
      [
        step('port', 'Gauge removed; orifice or port closed and soaped under pressure'),
        step('lit', 'Every appliance lit and seen to burn well, or the cylinder left shut'),
        step('detector', 'Gas detector powered again'),
        step('told', 'Whoever uses the vehicle told what was found'),
      ],
      ['ignition'],
    ),
    makeSafeList([
      step('shut', 'Cylinder shut, disconnected where it passes, labelled “do not use”'),
      stepIf('port', 'Gauge removed; orifice or port closed'),
      step('told', 'Whoever uses the vehicle told what was found'),
    ]),
  ];

  return good(
    card.course({
      filled: 'gas',
      unit: 'inH2O',
      phases,
      highest: limit,
      limit: threshold,
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: 'the vehicle’s gas piping',
          contents: gasIn(volume.totalL),
          unit: 'L/h',
          letBys: ['creep'],
          longer: { figure: 'hold-seconds' },
          longerLetBy: { figure: 'creep-seconds' },
        },
      ],
      boundaries: [
        { id: 'cylinder', label: 'Cylinder valve', beyond: 'The cylinder and its valve', provedBy: [[shut]] },
        { id: 'ends', label: 'Quick couplings and unused outlets', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        { when: after('lock-up', 'over'), verdict: 'fail', reason: 'lock-up-over', about: 'lock-up' },
        { when: after('lock-up', 'empty'), verdict: 'inconclusive', reason: 'no-supply', about: 'lock-up' },
        { when: after('lock-up', 'low'), verdict: 'inconclusive', reason: 'lock-up-low', about: 'lock-up' },
        { when: after('hold', 'fed'), verdict: 'fail', reason: 'valve-feeds', about: 'hold' },
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: after('rig', 'dry'), verdict: 'fail', reason: 'fall', about: 'hold' },
        { when: after('creep', 'rise'), verdict: 'inconclusive', reason: 'valve-passes', about: 'creep' },
        { when: after('bubbles', 'bubbles'), verdict: 'fail', reason: 'bubbles-seen' },
        ...(flow ? [conclude({ when: after('flow', 'low', 'high'), verdict: 'inconclusive', reason: 'pressure-off', about: 'flow' })] : []),
        {
          when: [[held, shut, on('bubbles', 'dry'), ...(flow ? [on('flow', 'in-order')] : [])]],
          verdict: 'pass',
          reason: 'tight-and-shut',
          about: 'hold',
        },
      ],
      derivation: [
        `Lock-up: under ${figure('lock-up-empty')} in WC empty, shut or bad regulator; under ${figure('lock-up-usual')} the regulator is checked; over ${limit} it fails.`,
        `A fall of ${threshold} in WC fails. A rise under ${figure('rise-noted')} is warming gas; one to ${figure('feeds-to')} or more is the cylinder feeding it.`,
        'Hold and creep must both pass: a passing cylinder valve can hide a leak.',
      ],
      notTested: ['The cylinder itself', 'Appliances downstream of their own closed controls'],
    }),
  );
}

const outOfScope = (answers: Input['answers']): readonly Problem[] =>
  answers.regulators === 'other'
    ? [
        {
          code: 'scope-pressure',
          field: 'regulators',
          message: 'This is for a two-stage regulator of about 11 in WC. For another working pressure use the leak-rate procedure.',
        },
      ]
    : [];

export const propaneVehicle: Procedure = {
  id: 'propane-vehicle',
  version: '1',
  title: 'Propane in a vehicle',
  school: 'Inches-of-water school',
  purpose: 'Shows that the propane system of a vehicle or small coach holds at low pressure, and that its cylinder valve lets nothing by.',
  systemKinds: ['propane'],
  plant,
  medium: 'propane at working pressure',
  volumeFrom: 'pipes',
  presumed: ['flow'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['cold'] satisfies readonly IdsOf<typeof parameters>[],
  volumeDecides: () => false,
  roles: [],
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
