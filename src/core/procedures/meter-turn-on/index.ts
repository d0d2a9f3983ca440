import { fromSi, good, type Problem, type Result } from '../../quantities';
import { gasIn } from '../../sizing/gas-hold';
import type { Instrument } from '../../sizing/gauge';
import { quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Turning a gas meter set on, inches-of-water school (DOMAIN 5.2). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  'lock-up': ['low', 'within', 'high', 'creep', 'slight', 'over', 'stopped'],
  seepage: 'no-rise',
  report: 'check',
  'open-drops': 'check',
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  'dial-ready': 'check',
  dial: 'dial',
  fittings: ['dry', 'bubbles'],
  'smell-response': 'check',
  restore: 'check',
  'make-safe': 'check',
});
const { after, checkPhase, getReady, holdPhase, look, makeSafeList, on, restoreList, smellOfGas, soapTheRig, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'threshold', label: 'Perceptible movement', value: '0.1', unit: 'inH2O', stricter: 'lower', bound: '0.01' },
  { id: 'static-spread', label: 'Static pressure may differ by', value: '1', unit: 'inH2O', stricter: 'lower', bound: '0.2' },
  { id: 'relief', label: 'Relief of the regulator', value: '14', unit: 'inH2O', stricter: 'lower', bound: '10' },
  { id: 'lock-up-seconds', label: 'Lock-up is watched for', value: '180', unit: 's', stricter: 'higher', bound: '3600', loosest: '120' },
  { id: 'seepage-low', label: 'Seepage is watched from', value: '5.0', unit: 'inH2O', stricter: 'higher', bound: '6' },
  { id: 'seepage-high', label: 'Seepage is watched up to', value: '6.0', unit: 'inH2O', stricter: 'lower', bound: '5' },
  {
    id: 'slight',
    label: 'A movement that a third of a degree makes, under',
    value: '0.3',
    unit: 'inH2O',
    stricter: 'lower',
    bound: '0.1',
  },
  { id: 'seepage-seconds', label: 'Seepage is watched for', value: '180', unit: 's', stricter: 'higher', bound: '3600' },
  { id: 'hold-seconds', label: 'Manometer hold', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'dial-seconds', label: 'Test dial is watched for', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'dial-readability', label: 'Dial read to at least', value: '0.05', unit: 'turn', stricter: 'lower', bound: '0.001' },
] as const satisfies Figures;

const parameters = [
  askChoice(
    'fuel',
    'Fuel',
    [
      ['natural gas', 'Natural gas'],
      ['propane', 'Propane'],
    ],
    'Propane has its own procedures.',
  ),
  askQuantity(
    'static',
    'Static pressure expected',
    'pressure',
    'inH2O',
    '7.5',
    ['3', '13'],
    'What the regulator is set to; about 7.5 in WC is usual.',
  ),
  askChoice(
    'dial',
    'Test dial',
    [
      ['if it falls', 'Only if the manometer falls'],
      ['always', 'A leak is suspected: always'],
    ],
    'The meter’s smallest dial, watched with the inlet stop open and every outlet closed.',
  ),
  askQuantity('dial-volume', 'One turn of the smallest dial', 'volume', 'ft3', '0.5', ['0.05', '10'], 'As printed on the dial.'),
] as const satisfies Asked;
const asked = { parameters };

function course({ answers, figure, gauge, instruments, volume }: Input): Result<Course> {
  const threshold = figure('threshold');
  const expected = fromSi(quantityIn(asked, answers, 'static'), 'inH2O');
  const spread = Number(figure('static-spread'));
  const around = (value: number) => ({ low: (value - spread).toFixed(1), high: (value + spread).toFixed(1) });
  const relief = figure('relief');
  const holdSeconds = Number(figure('hold-seconds'));
  const dial = instruments.dial as Instrument<'turn'>;
  const litresPerTurn = fromSi(quantityIn(asked, answers, 'dial-volume'), 'L').toFixed(4);
  const always = answers.dial === 'always';
  const held = on('hold', 'tight');
  const fell = on('rig', 'dry');

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('told', 'Occupants told: no gas until you say so'),
        step('no-smell', 'No smell of gas now. If you smell gas, use “Smell of gas” instead'),
        edge('stops', 'Every appliance stop shut; every outlet without an appliance plugged or capped'),
        step('vent', 'The regulator’s vent free, pointing down, clear of openings into the building'),
        step('gauge-side', 'Gauge on the test port after the regulator and meter, hose sound and tight'),
      ],
      ['licence', 'ignition'],
    ),
    zeroGauge(gauge.readability, 'Gauge off the hose, level: read it. It must show zero.'),
    holdPhase({
      id: 'lock-up',
      title: 'Lock-up',
      purpose: 'let-by',
      fed: true,
      cautions: ['relief'],
      say: `Open the inlet stop slowly, let the regulator lock up, and read the gauge. It must stand near ${expected} and not creep towards the relief at ${relief}.`,
      band: { low: '0', high: String(Number(relief) * 2) },
      seconds: Number(figure('lock-up-seconds')),
      limit: {
        kind: 'at-most',
        limit: relief,
        creep: threshold,
        slight: figure('slight'),
        bands: {
          steps: [
            { below: around(expected).low, outcome: 'low' },
            // The upper end itself is in order, so the band ends a tenth above it.
            { below: (expected + spread + 0.1).toFixed(1), outcome: 'within' },
          ],
          beyond: 'high',
        },
      },
      restartFrom: 'lock-up',
    }),
    holdPhase({
      id: 'seepage',
      title: 'Seepage of the inlet stop',
      purpose: 'let-by',
      cautions: ['bleed'],
      when: after('lock-up', 'within'),
      say: `Shut the inlet stop, bleed to about ${(Number(figure('seepage-low')) + Number(figure('seepage-high'))) / 2} at a burner or port, and read the gauge. It must not rise.`,
      band: { low: figure('seepage-low'), high: figure('seepage-high') },
      lowered: true,
      seconds: Number(figure('seepage-seconds')),
      limit: { kind: 'no-rise', threshold, slight: figure('slight') },
      restartFrom: 'seepage',
    }),
    checkPhase({
      id: 'report',
      title: 'Report the inlet stop',
      when: after('seepage', 'rise'),
      say: 'The stop seeps: its grease has dried. It is the gas supplier’s to repair. Report it, do not repair it.',
      items: [step('reported', 'Reported to the gas supplier', { write: 'Report reference' })],
    }),
    checkPhase({
      id: 'open-drops',
      title: 'Open the drops',
      when: after('seepage', 'steady', 'fall'),
      say: 'Open the stop of every appliance drop; the appliances’ own controls stay shut. Raise to static, and shut the inlet stop.',
      items: [step('drops', 'Every appliance stop open, controls shut, pilots off', { plant: 'reconnect' })],
    }),
    holdPhase({
      id: 'hold',
      title: 'Manometer hold',
      purpose: 'tightness',
      when: after('open-drops', 'done'),
      say: 'Inlet stop shut at static pressure: read the gauge. While it stands, soap every fitting.',
      band: around(expected),
      seconds: holdSeconds,
      limit: { kind: 'no-fall', threshold, slight: figure('slight') },
      restartFrom: 'hold',
      afterRise: 'seepage',
      valve: ['seepage'],
    }),
    soapTheRig('rig', 'hold', 'The gauge fell. Before this is charged to the piping, soap the hose, the tee and the test port.'),
    checkPhase({
      id: 'dial-ready',
      title: 'Ready the test dial',
      when: [...(always ? [[held]] : []), [fell]],
      say: 'Open the inlet stop. Prove that the meter registers: burn something, see the dial turn, and shut all outlets again.',
      items: [
        step('registers', 'The dial was seen to turn with gas burning'),
        step('outlets', 'Inlet stop open, every outlet closed, the dial’s place marked'),
      ],
    }),
    holdPhase({
      id: 'dial',
      title: 'Test dial',
      purpose: 'tightness',
      fed: true,
      instrument: 'dial',
      unit: 'turn',
      when: after('dial-ready', 'done'),
      say: 'Read the smallest dial now, in parts of a turn, and again when it is due.',
      band: { low: '0', high: '1000' },
      seconds: Number(figure('dial-seconds')),
      limit: { kind: 'dial', threshold: dial.readability, litresPerTurn },
      restartFrom: 'dial',
    }),
    look(
      'fittings',
      'What the soap showed',
      'Every fitting was soaped during the hold. Was there a bubble anywhere?',
      [
        ['dry', 'No bubbles'],
        ['bubbles', 'Bubbles at a fitting'],
      ],
      { when: [[held], [fell]] },
    ),
    smellOfGas(),
    restoreList(
      [
        step('ports', 'Gauge removed, test ports closed and soaped'),
        step('on', 'Inlet stop open, meter turns with gas burning'),
        step('purge', 'Air let out and every appliance lit as your licence allows, seen to burn well'),
        step('safe', 'Left safe; occupants told that gas may be used'),
      ],
      ['purge'],
    ),
    makeSafeList([
      stepIf('ports', 'Gauge removed, test ports closed'),
      step('shut', 'Meter’s inlet stop shut, locked or tagged, so that nobody uses gas'),
      step('told', 'Occupants told what was found'),
    ]),
  ];

  return good(
    card.course({
      filled: 'gas',
      unit: 'inH2O',
      phases,
      highest: relief,
      limit: threshold,
      instruments: { dial },
      demands: { dial: { highest: '1', limit: figure('dial-readability'), unit: 'turn' } },
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: 'the piping after the inlet stop',
          contents: gasIn(volume.totalL),
          unit: 'L/h',
          longer: { figure: 'hold-seconds' },
          longerLetBy: { figure: 'seepage-seconds' },
        },
      ],
      boundaries: [
        { id: 'inlet', label: 'Inlet stop', beyond: 'The supply upstream of the inlet stop', provedBy: after('seepage', 'steady', 'fall') },
        { id: 'stops', label: 'Plugs and caps on outlets without an appliance', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        { when: after('lock-up', 'over'), verdict: 'fail', reason: 'lock-up-over', about: 'lock-up' },
        { when: after('lock-up', 'creep'), verdict: 'fail', reason: 'regulator-creeps', about: 'lock-up' },
        { when: after('lock-up', 'low'), verdict: 'inconclusive', reason: 'lock-up-low', about: 'lock-up' },
        { when: after('lock-up', 'high'), verdict: 'inconclusive', reason: 'lock-up-off', about: 'lock-up' },
        { when: after('seepage', 'rise'), verdict: 'fail', reason: 'inlet-seeps', about: 'seepage' },
        { when: after('fittings', 'bubbles'), verdict: 'fail', reason: 'bubbles-seen' },
        { when: after('dial', 'moved'), verdict: 'fail', reason: 'dial-leak', about: 'dial' },
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: [[fell]], verdict: 'fail', reason: 'fall', about: 'hold' },
        {
          when: [[held, ...(always ? [on('dial', 'still')] : [])]],
          verdict: 'pass',
          reason: 'tight-turn-on',
          about: 'hold',
        },
      ],
      derivation: [
        `Lock-up near ${expected} in WC (from ${around(expected).low}), never over the relief at ${relief}; a rise of ${threshold} in ${Math.round(Number(figure('lock-up-seconds')) / 6) / 10} min is creep.`,
        `A movement of ${threshold} in WC is perceptible; none is permitted.`,
        `The dial shows a movement from ${dial.readability} turn of ${litresPerTurn} L.`,
      ],
      notTested: ['The supply upstream of the inlet stop', 'Appliances downstream of their own closed controls'],
    }),
  );
}

const outOfScope = (answers: Input['answers']): readonly Problem[] =>
  answers.fuel === 'propane'
    ? [{ code: 'scope-propane', field: 'fuel', message: 'This is for natural gas behind a meter. Use a propane procedure.' }]
    : [];

export const meterTurnOn: Procedure = {
  id: 'meter-turn-on-inches',
  version: '1',
  title: 'Meter set turn-on',
  school: 'Inches-of-water school',
  purpose: 'Shows before a meter is turned on that its regulator locks up, its inlet stop does not seep, and the piping behind it holds.',
  systemKinds: ['gas'],
  plant,
  medium: 'natural gas at working pressure',
  volumeFrom: 'pipes',
  presumed: ['dial'] satisfies readonly IdsOf<typeof parameters>[],
  volumeDecides: () => false,
  roles: [{ role: 'dial', label: 'Meter’s test dial', quantity: 'turns', needed: () => true }],
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
