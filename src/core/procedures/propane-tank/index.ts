import { linesOf } from '../../exact/lines';
import { fromSi, good, type Problem, type Result } from '../../quantities';
import { changesInWords, compareAppliances } from '../../sizing/appliances';
import { gasIn, oneStep } from '../../sizing/gas-hold';
import type { Gauge } from '../../sizing/gauge';
import { optionalIn, quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Answers, Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Propane from tank to appliance: a safety check with an appliance round (DOMAIN 5.5). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  tank: 'recorded',
  shut: 'check',
  hold: 'no-fall',
  round: 'check',
  rig: ['dry', 'bubbles'],
  'zero-low': 'zero',
  'hold-low': 'no-fall',
  'rig-low': ['dry', 'bubbles'],
  'smell-response': 'check',
  restore: 'check',
  'make-safe': 'check',
});
const {
  after,
  checkPhase,
  conclude,
  getReady,
  holdPhase,
  makeSafeList,
  measurePhase,
  on,
  restoreList,
  smellOfGas,
  soapTheRig,
  zeroGauge,
  zeroPhase,
} = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'under-tank', label: 'Start pressure under the tank’s by at least', value: '5', unit: '%', stricter: 'higher', bound: '20' },
  { id: 'hold-seconds', label: 'Shortest hold', value: '180', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'longest-seconds', label: 'Lengthened by appliances to', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'low-low', label: 'Low-pressure hold from', value: '7', unit: 'inH2O', stricter: 'higher', bound: '8' },
  { id: 'low-high', label: 'Low-pressure hold to', value: '9', unit: 'inH2O', stricter: 'lower', bound: '8' },
  { id: 'low-threshold', label: 'Perceptible at low pressure', value: '0.1', unit: 'inH2O', stricter: 'lower', bound: '0.01' },
  { id: 'low-seconds', label: 'Low-pressure hold', value: '180', unit: 's', stricter: 'higher', bound: '86400' },
] as const satisfies Figures;

const parameters = [
  askQuantity('tank', 'Tank pressure now', 'pressure', 'psi', '100', ['10', '300'], 'As the gauge at the tank shows it.'),
  askQuantity('count', 'Appliances', 'count', 'pcs', '3', ['1', '50'], 'More than three lengthen the hold, a minute each.'),
  {
    kind: 'lines',
    id: 'appliances',
    label: 'Appliances now',
    help: 'A line each: make, model, serial.',
    usual: '',
    example: 'Range Ostra 4, serial 1207',
    optional: true,
  },
  {
    kind: 'lines',
    id: 'last-visit',
    label: 'Appliances at the last visit',
    help: 'As the register has them. One that was swapped is flagged.',
    usual: '',
    example: 'Range Ostra 4, serial 1207',
    optional: true,
  },
  askChoice(
    'low',
    'Low-pressure hold too',
    [
      ['no', 'No'],
      ['yes', 'Yes, after the last regulator'],
    ],
    'The tank’s gauge is coarse; a hold at low pressure sees far smaller leaks.',
  ),
  askQuantity(
    'low-volume',
    'Volume after the last regulator',
    'volume',
    'L',
    '2',
    ['0.05', '1000'],
    'Pipe from the last regulator to the appliances.',
    {
      askedFor: { answer: 'low', is: ['yes'] },
    },
  ),
] as const satisfies Asked;
const asked = { parameters };

const regulatorHolds = 'the tank is shut while it stands, so that the regulator feeds nothing';

/** What is gone through beside the hold; each appliance has its card. */
const round = [
  step('cards', 'Every appliance gone round, a card each: what is not in order is written on it'),
  step('tank', 'Tank kind, size and serial written down', { write: 'Kind, size, serial' }),
  step('line', 'Line fastened, and sized for the load'),
  step('regulators', 'Regulator data and date, vents free and pointing down'),
];

function course({ answers, figure, gauge, instruments, volume }: Input): Result<Course> {
  const tank = fromSi(quantityIn(asked, answers, 'tank'), 'psi');
  const count = optionalIn(asked, answers, 'count', 'pcs') ?? 3;
  const under = Number(figure('under-tank')) / 100;
  // By the tank as it is read; the plan's own figure only says where one lets down to, and what the hold can see.
  const part = {
    phase: 'tank' as const,
    least: figure('under-tank'),
    most: String(3 * Number(figure('under-tank'))),
    percent: true as const,
  };
  const high = (Math.floor(tank * (1 - under) * 10) / 10).toFixed(1);
  const low = (tank * (1 - 3 * under)).toFixed(1);
  const floor = Number(figure('hold-seconds'));
  const seconds = Math.max(floor, Math.min(Number(figure('longest-seconds')), floor + 60 * Math.max(0, Math.ceil(count) - 3)));
  const threshold = oneStep(gauge, 'psi');
  const lowToo = answers.low === 'yes';
  const fine = (instruments.low as Gauge | undefined) ?? gauge;
  const fineThreshold = figure('low-threshold');
  const lowSeconds = Number(figure('low-seconds'));

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('told', 'Everyone told: no gas until you say so'),
        step('no-smell', 'No smell of gas, outside or in. If you smell gas, use “Smell of gas” instead'),
        step('off', 'Every appliance off, pilots out, appliance shut-offs open'),
        edge('ends', 'Every outlet without an appliance plugged or capped'),
        step('gauge-side', 'Gauge at the tank, on the system’s side of its valve; the fitting soaped'),
      ],
      ['licence', 'ignition'],
    ),
    zeroGauge(gauge.readability),
    measurePhase({
      id: 'tank',
      title: 'Tank pressure',
      say: 'Open the tank slowly to fill the line, and read the gauge.',
      fields: [{ quantity: 'pressure', label: 'Tank pressure' }],
      points: [{ id: 'tank', label: 'Tank', aim: tank.toFixed(1) }],
      limit: { kind: 'recorded' },
      restartFrom: 'tank',
      fed: true,
    }),
    checkPhase({
      id: 'shut',
      title: 'Shut and let down',
      cautions: ['bleed'],
      say: 'Shut the tank, and let the pressure down well under it: a tank valve that passes then shows as a rise.',
      items: [
        step('shut', 'Tank valve shut'),
        step('down', `Let down to ${part.least} to ${part.most} % under the tank’s pressure as it was read`, {
          to: ((Number(low) + Number(high)) / 2).toFixed(1),
        }),
      ],
    }),
    holdPhase({
      id: 'hold',
      title: 'Hold at the tank',
      purpose: 'tightness',
      cautions: ['bleed'],
      say: 'Read the gauge. Nobody uses gas until it is due.',
      band: { low, high },
      lowered: true,
      under: part,
      seconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'tank',
    }),
    checkPhase({
      id: 'round',
      title: 'Appliance round',
      alongside: 'hold',
      picture: 'appliance round',
      say: 'Go round the appliances while the hold runs, or now.',
      when: after('hold', 'tight'),
      items: round,
    }),
    soapTheRig('rig', 'hold', 'The gauge fell. Before this is charged to the system, soap the gauge’s fitting at the tank.'),
    ...(lowToo ? lowHold(fine, fineThreshold, figure, lowSeconds) : []),
    smellOfGas('Stop. Tank shut, no switches or flames, people out and away, and call the emergency number.'),
    restoreList(
      [
        step('gauge', 'Gauge removed; its fitting closed and soaped under pressure'),
        step('on', 'Gas on, air let out'),
        step('lit', 'Each burner and appliance lit: flame colour, ignition, shut-off seen'),
        step('sign', 'Both to sign; the occupier told that a copy follows'),
      ],
      ['ignition'],
    ),
    makeSafeList([
      step('shut', 'Tank shut and labelled, so that nobody uses gas'),
      stepIf('gauge', 'Gauge removed; its fitting closed'),
      step('told', 'Occupier told what was found, and that a copy follows'),
    ]),
  ];
  const pair = lowToo ? [on('hold-low', 'tight')] : [];
  return good(
    card.course({
      filled: 'gas',
      unit: 'psi',
      phases,
      highest: String(Math.ceil(tank)),
      limit: threshold,
      instruments: lowToo ? { low: fine } : undefined,
      demands: lowToo ? { low: { highest: figure('low-high'), limit: fineThreshold, unit: 'inH2O' as const } } : undefined,
      judgedBy: 'hold',
      sees: [
        // What is sure after the last regulator is told first: it is the finer of the two.
        ...(lowToo
          ? [
              {
                phase: 'hold-low' as const,
                what: 'the piping after the last regulator',
                contents: gasIn(optionalIn(asked, answers, 'low-volume', 'L') ?? 1),
                unit: 'L/h' as const,
                alsoAssumes: [regulatorHolds],
                longer: { figure: 'low-seconds' },
              },
            ]
          : []),
        {
          phase: 'hold',
          what: 'the piping before it, as the tank’s gauge sees it',
          contents: gasIn(volume.totalL),
          unit: 'L/h',
          alsoOutside: ['a tank valve that feeds what leaks: a rise shows it only where it passes more'],
          longer: { figure: 'hold-seconds' },
        },
      ],
      boundaries: [
        { id: 'tank', label: 'Tank valve', beyond: 'The tank and its valve', provedBy: after('hold', 'tight') },
        { id: 'ends', label: 'Plugs and caps on outlets without an appliance', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: after('rig', 'dry'), verdict: 'fail', reason: 'fall', about: 'hold' },
        ...(lowToo
          ? [
              conclude({ when: after('rig-low', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' }),
              conclude({ when: after('rig-low', 'dry'), verdict: 'fail', reason: 'fall', about: 'hold-low' }),
            ]
          : []),
        {
          when: [[on('hold', 'tight'), on('round', 'done'), ...pair]],
          verdict: 'pass',
          reason: lowToo ? 'tight-pair' : 'tight',
          about: lowToo ? 'hold-low' : 'hold',
        },
      ],
      derivation: [
        `Started ${part.least} to ${part.most} % under the tank’s pressure as it is read: ${high} psi at most at ${tank.toFixed(1)} psi.`,
        `${Math.round(seconds / 60)} min: ${Math.round(floor / 60)} min and a minute for each appliance past three, to ${Math.round(Number(figure('longest-seconds')) / 60)}.`,
        `One step of the gauge, ${threshold} psi, is a movement; none is permitted.`,
      ],
      notTested: [
        'The tank itself',
        'Appliances downstream of their own closed controls',
        ...(lowToo ? [] : ['Small leaks after the last regulator: the tank’s gauge cannot show them']),
      ],
      advice: [
        ...(lowToo ? [] : ['The tank’s gauge is coarse: a low-pressure hold after the last regulator sees far smaller leaks.']),
        ...changesInWords(
          compareAppliances(answers['last-visit'] ?? '', (answers['last-visit'] ?? '').trim() === '' ? '' : (answers.appliances ?? '')),
        ),
      ],
    }),
  );
}

const lowHold = (fine: Gauge, threshold: string, figure: Input['figure'], seconds: number): readonly PhaseIn<Names>[] => [
  zeroPhase({
    id: 'zero-low',
    title: 'Zero the low-pressure gauge',
    instrument: 'low',
    when: after('round', 'done'),
    say: 'Low-pressure gauge open to the air: read it. It must show zero.',
    below: fine.readability,
  }),
  holdPhase({
    id: 'hold-low',
    title: 'Low-pressure hold',
    purpose: 'tightness',
    instrument: 'low',
    unit: 'inH2O',
    cautions: ['bleed'],
    when: after('zero-low', 'zeroed'),
    say: 'Gauge after the last regulator, tank shut: bleed into the band at a burner, let it settle, and read the gauge.',
    band: { low: figure('low-low'), high: figure('low-high') },
    seconds,
    limit: { kind: 'no-fall', threshold },
    restartFrom: 'hold-low',
  }),
  soapTheRig('rig-low', 'hold-low', 'The low-pressure gauge fell. Soap the hose, the tee and the test port first.'),
];

function outOfScope(answers: Input['answers']): readonly Problem[] {
  const lines = linesOf(answers.appliances).length;
  const count = optionalIn(asked, answers, 'count', 'pcs') ?? 0;
  return lines > 0 && lines !== count
    ? [
        {
          code: 'appliances-differ',
          field: 'count',
          message: `${lines} appliances are listed, and ${count} are counted. Correct one of them; the hold’s time depends on it.`,
        },
      ]
    : [];
}

export const propaneTank: Procedure = {
  id: 'propane-tank-check',
  version: '1',
  title: 'Propane, tank to appliance',
  school: 'Safety-check school',
  purpose:
    'A safety check of a propane installation: a short hold at the tank, a round of all appliances meanwhile, and a low-pressure hold where one wants to see more.',
  systemKinds: ['propane'],
  plant,
  medium: 'propane',
  volumeFrom: 'pipes',
  fromRegister: ({ components, last }): Answers =>
    components.length === 0
      ? {}
      : { appliances: components.join('\n'), 'last-visit': last.appliances ?? '', count: String(components.length) },
  presumed: ['low', 'appliances', 'last-visit'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['tank'] satisfies readonly IdsOf<typeof parameters>[],
  volumeDecides: () => false,
  roles: [{ role: 'low', label: 'Low-pressure gauge', quantity: 'pressure', needed: ({ low }) => low === 'yes' }],
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
