import { fromSi, good, type Result } from '../../quantities';
import { oneStep } from '../../sizing/gas-hold';
import { type WaterPipe, waterIn, waterPipeOptions } from '../../sizing/water-hold';
import { pipeFromRuns, quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, gaugeFalls, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { example } from './example';
import { faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Static isolation hold of a water service at its own pressure (DOMAIN 5.7). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  supply: ['low', 'usual', 'high'],
  indicator: ['still', 'moving'],
  shut: 'check',
  sees: ['falls', 'stands'],
  'let-by': 'no-rise',
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, checkPhase, getReady, holdPhase, look, makeSafeList, measurePhase, restoreList, soapTheRig, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'bleed-least', label: 'Bled below the supply by at least', value: '0.2', unit: 'bar', stricter: 'higher', bound: '0.7' },
  { id: 'bleed-most', label: 'Bled below the supply by at most', value: '0.7', unit: 'bar', stricter: 'lower', bound: '0.2' },
  { id: 'let-by-seconds', label: 'Valve is watched for', value: '300', unit: 's', stricter: 'higher', bound: '3600', loosest: '120' },
  { id: 'hold-seconds', label: 'Hold', value: '900', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '0.1', unit: 'bar', stricter: 'lower', bound: '0.001' },
] as const satisfies Figures;

const valves = {
  meter: { label: 'At the meter', covers: 'the yard line and the house', beyond: 'The supply before the meter' },
  house: { label: 'At the house valve', covers: 'the house alone', beyond: 'The yard line and the supply before the house valve' },
} as const;
type Valve = keyof typeof valves;
const valveOf = ({ 'shut-at': at }: Input['answers']) => valves[(at as Valve) ?? 'meter'] ?? valves.meter;

const parameters = [
  askChoice(
    'shut-at',
    'Shut',
    [
      ['meter', valves.meter.label],
      ['house', valves.house.label],
    ],
    'Whose pipe lies between depends on it: at the meter it is the yard line and the house, at the house valve the house alone.',
  ),
  askQuantity(
    'supply',
    'Supply pressure',
    'pressure',
    'bar',
    '4',
    ['0.5', '16'],
    'As the gauge on the hose tap shows it; 2.5 to 5.5 bar is usual.',
  ),
  askChoice('pipe', 'Pipe, mostly', waterPipeOptions, 'Soft pipe gives way and hides small leaks.'),
  askChoice(
    'breaker',
    'Hose tap',
    [
      ['plain', 'Plain'],
      ['breaker', 'With a vacuum breaker'],
    ],
    'A vacuum breaker spills and can leak: prefer a tap without one.',
  ),
] as const satisfies Asked;
const asked = { parameters };

function course({ answers, figure, gauge, volume }: Input): Result<Course> {
  const supply = fromSi(quantityIn(asked, answers, 'supply'), 'bar');
  const threshold = oneStep(gauge, 'bar');
  const holdSeconds = Number(figure('hold-seconds'));
  // By the supply as it is read; the plan's own figure only says where the bleeding ends on a simulated plant.
  const under = { phase: 'supply' as const, least: figure('bleed-least'), most: figure('bleed-most') };
  const bled = (supply - (Number(under.least) + Number(under.most)) / 2).toFixed(2);
  const band = { low: (supply - Number(under.most)).toFixed(2), high: (supply - Number(under.least)).toFixed(2) };
  const { covers, beyond, label } = valveOf(answers);
  const atMeter = answers['shut-at'] !== 'house';
  const steady = after('let-by', 'steady', 'fall');

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('told', 'Occupants told: no water and no flushing until you say so'),
        step('heater', 'Water heater off, gas or electric: a closed heater raises the pressure and hides leaks'),
        stepIf('fillers', 'Ice makers, softeners, sprinklers and filling valves off'),
        edge('outlets', 'Every tap and outlet shut, seen dry', { plugged: 'Shut' }),
        step(
          'gauge-side',
          answers.breaker === 'breaker' ? 'Gauge on the hose tap; its vacuum breaker seen dry' : 'Gauge on a hose tap, tight',
        ),
      ],
      ['heater'],
    ),
    zeroGauge(gauge.readability),
    measurePhase({
      id: 'supply',
      title: 'Supply pressure',
      say: 'Open the tap to the gauge and read the supply pressure.',
      fields: [{ quantity: 'pressure', label: 'Supply pressure' }],
      points: [{ id: 'supply', label: 'Supply', aim: supply.toFixed(2) }],
      limit: {
        kind: 'in-bands',
        unit: 'bar',
        bands: {
          steps: [
            { below: '2.5', outcome: 'low' },
            { below: '5.6', outcome: 'usual' },
          ],
          beyond: 'high',
        },
        worst: ['high', 'low'],
      },
      restartFrom: 'supply',
      fed: true,
    }),
    look('indicator', 'Look at the meter', 'Everything is off: look at the meter’s own flow indicator for a minute.', [
      ['still', 'It stands still'],
      ['moving', 'It moves'],
    ]),
    checkPhase({
      id: 'shut',
      title: 'Shut and bleed',
      cautions: ['heater'],
      when: after('indicator', 'still'),
      say: `Shut the supply ${label.toLowerCase()} and bleed a little, at another tap than the gauge’s.`,
      items: [
        step('which', `Shut ${label.toLowerCase()}: what is tested is ${covers}`),
        step(
          'bled',
          `Bled at another tap, ${under.least} to ${under.most} bar below the supply as it was read: less, and a passing valve cannot show; more, and it is no supply pressure`,
          {
            to: bled,
          },
        ),
      ],
    }),
    look(
      'sees',
      'Does the gauge see the pipes?',
      'Think back to the bleeding, or bleed a little more at the other tap: behind a shut hose tap or a stuck breaker the gauge would stand.',
      gaugeFalls,
      { when: after('shut', 'done') },
    ),
    holdPhase({
      id: 'let-by',
      title: 'Does the valve pass?',
      purpose: 'let-by',
      when: after('sees', 'falls'),
      say: 'Read the gauge, and watch it. It must not rise.',
      band,
      lowered: true,
      under,
      seconds: Number(figure('let-by-seconds')),
      limit: { kind: 'no-rise', threshold },
      // A pressure that is no longer the supply's begins with the supply again.
      restartFrom: 'supply',
    }),
    holdPhase({
      id: 'hold',
      title: 'Hold',
      purpose: 'tightness',
      when: steady,
      say: 'Read the gauge and the clock. Nobody draws water until it is due.',
      band,
      lowered: true,
      under,
      valve: ['let-by'],
      seconds: holdSeconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'supply',
      afterRise: 'supply',
    }),
    soapTheRig(
      'rig',
      'hold',
      'The gauge fell. Before this is charged to the pipes, look at the hose tap, the gauge’s joint and its breaker for drops.',
      ['fall'],
      'water',
    ),
    restoreList([
      step('heater', 'Water heater on again, once it is full'),
      step('reopened', 'Supply reopened, fully'),
      step('runs', 'A tap runs: seen, not supposed'),
      step('gauge', 'Gauge removed, hose tap shut and dry'),
    ]),
    makeSafeList([
      step('reopened', 'Supply reopened and a tap seen to run, or left shut with the occupant’s knowledge'),
      stepIf('heater', 'Water heater on again, once it is full; or left off and labelled'),
      step('gauge', 'Gauge removed, hose tap shut'),
      step('told', 'Occupants told what was found'),
    ]),
  ];

  return good(
    card.course({
      filled: 'water',
      unit: 'bar',
      phases,
      highest: String(Math.ceil(supply)),
      limit: figure('coarsest'),
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: covers,
          contents: waterIn(volume.totalL, answers.pipe as WaterPipe),
          unit: 'L/h',
          supply: { value: supply.toFixed(3), phase: 'supply' },
          longer: { figure: 'hold-seconds' },
          longerLetBy: { figure: 'let-by-seconds' },
        },
      ],
      boundaries: [
        { id: 'valve', label: 'Supply valve', beyond, provedBy: steady },
        {
          id: 'hose-tap',
          label: 'Hose tap and its breaker, between gauge and pipes',
          beyond: 'The pipes, which are what is tested: it has to be open',
          provedBy: after('sees', 'falls'),
        },
        { id: 'outlets', label: 'Taps and outlets', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        { when: after('indicator', 'moving'), verdict: 'inconclusive', reason: 'meter-moves' },
        { when: after('sees', 'stands'), verdict: 'inconclusive', reason: 'gauge-blind' },
        {
          when: after('let-by', 'rise'),
          verdict: 'inconclusive',
          reason: 'valve-passes',
          about: 'let-by',
          offer: atMeter ? { label: 'Repeat at the house valve', answers: { 'shut-at': 'house' } } : undefined,
        },
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        {
          when: after('rig', 'dry'),
          verdict: 'fail',
          reason: 'fall',
          about: 'hold',
          offer: atMeter ? { label: 'Repeat at the house valve: yard or house?', answers: { 'shut-at': 'house' } } : undefined,
        },
        { when: after('hold', 'tight'), verdict: 'pass', reason: 'tight-isolated', about: 'hold' },
      ],
      derivation: [
        `Shut ${label.toLowerCase()}: ${covers}.`,
        `Bled ${under.least} to ${under.most} bar below the supply as it is read, so that a passing valve shows as a rise.`,
        `One step of the gauge, ${threshold} bar, is a movement; no fall is permitted in ${Math.round(holdSeconds / 60)} min.`,
        'It adds no pressure: it is no pressure test, and is never called one.',
      ],
      notTested: [beyond, 'Anything at a pressure above the supply’s: it adds none, so this is not a hydrostatic test', 'Drains'],
      advice: [
        ...(supply < 2.5 || supply > 5.5
          ? [
              `${answers.supply} lies outside the usual 2.5 to 5.5 bar: ${supply > 5.5 ? 'too high harms fittings; look at the pressure reducer' : 'so little shows little; look at the supply first'}.`,
            ]
          : []),
        ...(answers.breaker === 'breaker' ? ['A vacuum breaker spills and can leak: prefer a tap without one.'] : []),
        'The usual companion is the drain level hold: do both side by side.',
      ],
    }),
  );
}

export const waterIsolation: Procedure = {
  id: 'water-isolation-hold',
  version: '1',
  title: 'Water isolation hold',
  school: 'Valve shut, gauge watched',
  purpose: 'Shows at the supply’s own pressure, with the supply shut, whether the water pipes of a house lose water.',
  systemKinds: ['water'],
  plant,
  medium: 'water at supply pressure',
  volumeFrom: 'pipes',
  fromPipes: pipeFromRuns,
  volumeDecides: () => false,
  roles: [],
  parameters,
  figures,
  ...sheet,
  course,
  phases: card.names,
  example,
  faults,
};
