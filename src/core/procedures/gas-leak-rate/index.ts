import { add, decimal, fromSi, good, type Problem, type Result, toSi, toText } from '../../quantities';
import { gasIn, oneStep, storedAdvice } from '../../sizing/gas-hold';
import type { Gauge } from '../../sizing/gauge';
import { serviceTimes } from '../../sizing/serviceability';
import { quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Gas leak rate and serviceability, litres-per-hour school (DOMAIN 5.6). */

const card = cardOf({
  prepare: 'check',
  'zero-strength': 'zero',
  strength: 'no-fall',
  'rig-strength': ['dry', 'bubbles'],
  zero: 'zero',
  settle: 'wait',
  hold: ['unrestricted', 'reduced', 'shut-down', 'rise', 'unread', 'unclear', 'stopped', 'no-fall'],
  rig: ['dry', 'bubbles'],
  'smell-response': 'check',
  restore: 'check',
  'make-safe': 'check',
});
const { after, getReady, holdPhase, makeSafeList, on, restoreList, smellOfGas, soapTheRig, zeroGauge, zeroPhase } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'unrestricted-below', label: 'Unrestricted use under', value: '1', unit: 'L/h', stricter: 'lower', bound: '0.2' },
  { id: 'shut-down-from', label: 'Shut down from', value: '5', unit: 'L/h', stricter: 'lower', bound: '1' },
  { id: 'repair-days', label: 'Restricted use: repaired within', value: '28', unit: 'days', stricter: 'lower', bound: '1' },
  { id: 'factor-natural', label: 'Air to natural gas', value: '1.65', unit: '×', stricter: 'higher', bound: '3' },
  { id: 'factor-propane', label: 'Air to propane', value: '2.2', unit: '×', stricter: 'higher', bound: '4' },
  { id: 'raise-above', label: 'Raised above the test pressure by at most', value: '1', unit: 'mbar', stricter: 'lower', bound: '0.2' },
  { id: 'strength-pressure', label: 'Strength pressure, new pipework', value: '1000', unit: 'mbar', stricter: 'higher', bound: '3000' },
  { id: 'strength-seconds', label: 'Strength hold', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'tightness-pressure', label: 'Tightness pressure, new pipework', value: '150', unit: 'mbar', stricter: 'higher', bound: '500' },
  {
    id: 'tightness-seconds',
    label: 'Tightness hold, new pipework, at least',
    value: '600',
    unit: 's',
    stricter: 'higher',
    bound: '86400',
  },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '1', unit: 'mbar', stricter: 'lower', bound: '0.01' },
] as const satisfies Figures;

const existing = { answer: 'work', is: ['existing'] } as const;
const parameters = [
  askChoice(
    'work',
    'Work',
    [
      ['existing', 'Existing line, by its leak rate'],
      ['new', 'New pipework, by strength and tightness'],
    ],
    'New pipework must show no fall; an existing line is judged by its litres per hour.',
  ),
  askChoice(
    'feed',
    'Gas carried',
    [
      ['natural gas', 'Natural gas'],
      ['propane', 'Propane'],
    ],
    'Sets how a rate found with air is turned into the gas’s.',
  ),
  askChoice(
    'medium',
    'Tested with',
    [
      ['gas', 'The gas itself, at working pressure'],
      ['air', 'Air'],
      ['oxygen', 'Oxygen'],
    ],
    'Never oxygen. Fuel gas only in a line that is already gassed.',
  ),
  askChoice(
    'line',
    'Line',
    [
      ['service', 'House line'],
      ['riser', 'Riser'],
      ['branch', 'Branch to an appliance'],
      ['whole', 'The whole installation'],
    ],
    'Kept in the record.',
  ),
  askQuantity('operating', 'Operating pressure', 'pressure', 'mbar', '22', ['5', '100'], 'Measured at the outlet.', { askedFor: existing }),
  askChoice(
    'level',
    'The line stands',
    [
      ['operating', 'At its operating pressure'],
      ['above', 'Above it'],
    ],
    'A line that stands above may be tested there.',
    { askedFor: existing },
  ),
  askQuantity('standing', 'Pressure it stands at', 'pressure', 'mbar', '25', ['5', '150'], 'The rate found there is never reduced.', {
    askedFor: { answer: 'level', is: ['above'] },
  }),
] as const satisfies Asked;
const asked = { parameters };
const mbar = (answers: Input['answers'], id: 'operating' | 'standing'): number => fromSi(quantityIn(asked, answers, id), 'mbar');

const ready = (connected: string) => [
  step('told', 'Occupants told: no gas until you say so'),
  step('no-smell', 'No smell of gas now. If you smell gas, use “Smell of gas” instead'),
  step('visual', 'Line looked over: supports, corrosion, unused outlets'),
  edge('inlet', 'Line’s inlet shut, and proved or blanked', { plugged: 'Shut and proved, or blanked' }),
  edge('ends', connected),
  step('gauge-side', 'Gauge on the line, hose sound and tight'),
];

function serviceability({ answers, figure, gauge, volume }: Input): Result<Course> {
  const pressure = Number((answers.level === 'above' ? mbar(answers, 'standing') : mbar(answers, 'operating')).toFixed(2));
  const step1 = toSi(Number(gauge.readability), gauge.unit);
  const factor = answers.medium === 'air' ? figure(answers.feed === 'propane' ? 'factor-propane' : 'factor-natural') : '1';
  const times = serviceTimes(
    'existing',
    { litres: volume.totalL, systemLitres: volume.systemL },
    step1,
    toSi(pressure, 'mbar'),
    Number(factor),
  );
  if (!times.ok) return times;
  const { settleSeconds, holdSeconds, why } = times.value;
  const band = { low: String(pressure), high: toText(add(decimal(String(pressure)), decimal(figure('raise-above')))) };

  const phases: readonly PhaseIn<Names>[] = [
    getReady(ready('Every outlet shut at its appliance; outlets without one plugged'), ['licence', 'ignition']),
    zeroGauge(gauge.readability, 'Gauge off the hose: read it. It must show zero.'),
    holdPhase({
      id: 'settle',
      title: 'Stabilise',
      purpose: 'settle',
      say: 'Bring the line into the band, shut it, and read the gauge. Let it stabilise.',
      band,
      seconds: settleSeconds,
      limit: { kind: 'wait' },
      restartFrom: 'settle',
    }),
    holdPhase({
      id: 'hold',
      title: 'Measure',
      purpose: 'tightness',
      when: after('settle', 'settled'),
      say: 'Read gauge and barometer to start measuring. Touch nothing until it is due.',
      // It may have settled under the band: the rate counts from where it stands.
      band: { low: (pressure * 0.8).toFixed(1), high: band.high },
      seconds: holdSeconds,
      limit: {
        kind: 'leak-rate',
        litres: volume.totalL.toFixed(3),
        factor,
        bands: [
          { below: figure('unrestricted-below'), outcome: 'unrestricted' },
          { below: figure('shut-down-from'), outcome: 'reduced' },
        ],
        beyond: 'shut-down',
      },
      restartFrom: 'settle',
      // Minutes at a few millibar: a falling barometer lifts the gauge, and hides a leak.
      corrects: { atmosphereHpa: '1013.25', needed: Number(volume.systemL.toFixed(6)) > 100 ? 'both' : 'barometer' },
    }),
    soapTheRig('rig', 'hold', 'The line loses gas. Before this is charged to it, soap the hose, the tee and the test port.', [
      'reduced',
      'shut-down',
    ]),
    smellOfGas(),
    restoreList(
      [
        step('port', 'Gauge removed, port closed and soaped'),
        step('on', 'Line open again, purged and relit as your licence allows'),
        step('told', 'Occupier told the rate; where use is restricted, the date by which it must be repaired'),
      ],
      ['purge'],
      true,
    ),
    makeSafeList([
      step('shut', 'Line shut and locked or blanked at once, labelled'),
      stepIf('port', 'Gauge removed, port closed'),
      step('told', 'Occupier and supplier told'),
    ]),
  ];
  return good(
    card.course({
      filled: 'gas',
      medium: answers.medium === 'air' ? 'air' : 'the gas itself at working pressure',
      unit: 'mbar',
      phases,
      highest: band.high,
      limit: String(Math.max(1, Number(figure('coarsest')))),
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: 'the line',
          contents: gasIn(volume.totalL),
          factor,
          unit: 'L/h',
          alsoAssumes: [inletHolds],
        },
      ],
      boundaries: boundaries('The meter and the supply before the line', 'Appliances behind their own shut valves'),
      conclusions: [
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        {
          when: [[on('hold', 'shut-down'), on('rig', 'dry')]],
          verdict: 'fail',
          reason: 'rate-shut-down',
          about: 'hold',
        },
        {
          when: [[on('hold', 'reduced'), on('rig', 'dry')]],
          verdict: 'restricted',
          reason: 'rate-reduced',
          about: 'hold',
          repairDays: Number(figure('repair-days')),
        },
        { when: after('hold', 'unrestricted'), verdict: 'pass', reason: 'rate-unrestricted', about: 'hold' },
      ],
      derivation: [
        ...why,
        `Under ${figure('unrestricted-below')} L/h unrestricted; from there to under ${figure('shut-down-from')} L/h restricted, repaired within ${figure('repair-days')} days; from ${figure('shut-down-from')} L/h, or with any smell, shut down.`,
        `The measured rate counts, never reduced for a raised test pressure${factor === '1' ? '' : `; found with air it is multiplied by ${factor}, since the gas is thinner`}.`,
        'The worst rate that gauge and barometer leave possible decides.',
        `It carries ${answers.feed}; operating ${mbar(answers, 'operating').toFixed(1)} mbar, tested at ${pressure.toFixed(1)} mbar; rates at 1013.25 mbar and 15 °C.`,
      ],
      notTested: ['The meter and the supply before the line', 'Appliances behind their own shut valves'],
      advice:
        answers.level === 'above'
          ? [`The line stands at ${pressure} mbar, above its operating pressure: it is tested there, and the rate is not reduced for it.`]
          : [],
    }),
  );
}

const inletHolds = 'what closes the inlet lets nothing by: it is proved or blanked';

const boundaries = (before: string, beyond: string) => [
  { id: 'inlet', label: 'Inlet of the line', beyond: before },
  { id: 'ends', label: 'Ends of the line', beyond },
];

function newPipework({ figure, gauge, instruments, volume }: Input): Result<Course> {
  const strong = (instruments.strength as Gauge | undefined) ?? gauge;
  const times = serviceTimes('new', { litres: volume.totalL, systemLitres: volume.systemL }, toSi(Number(gauge.readability), gauge.unit));
  if (!times.ok) return times;
  const { settleSeconds, why } = times.value;
  const holdSeconds = Math.max(times.value.holdSeconds, Number(figure('tightness-seconds')));
  const strength = figure('strength-pressure');
  const tightness = figure('tightness-pressure');
  const above = (value: string, by: string) => toText(add(decimal(value), decimal(by)));
  const threshold = oneStep(gauge, 'mbar');

  const phases: readonly PhaseIn<Names>[] = [
    getReady(ready('Every end plugged or capped with metal; no appliance, regulator or meter connected'), ['licence', 'energy']),
    zeroPhase({
      id: 'zero-strength',
      title: 'Zero the strength gauge',
      instrument: 'strength',
      say: 'Strength gauge open to the air: read it. It must show zero.',
      below: strong.readability,
    }),
    holdPhase({
      id: 'strength',
      title: 'Strength',
      purpose: 'tightness',
      instrument: 'strength',
      cautions: ['energy'],
      say: `Raise air slowly to ${Number(strength) / 1000} bar, shut it, stand clear, and read the gauge.`,
      band: { low: strength, high: above(strength, '50') },
      seconds: Number(figure('strength-seconds')),
      limit: { kind: 'no-fall', threshold: oneStep(strong, 'mbar') },
      restartFrom: 'strength',
    }),
    soapTheRig('rig-strength', 'strength', 'The gauge fell. Before this is charged to the pipework, soap the rig.'),
    {
      ...zeroGauge(gauge.readability, 'Let down to zero and fit the fine gauge, open to the air: read it. It must show zero.'),
      when: after('strength', 'tight'),
    },
    holdPhase({
      id: 'settle',
      title: 'Stabilise',
      purpose: 'settle',
      when: after('zero', 'zeroed'),
      say: 'Raise air into the band, shut it, and read the gauge.',
      band: { low: tightness, high: above(tightness, '10') },
      seconds: settleSeconds,
      limit: { kind: 'wait' },
      restartFrom: 'settle',
    }),
    holdPhase({
      id: 'hold',
      title: 'Tightness',
      purpose: 'tightness',
      when: after('settle', 'settled'),
      say: 'Read the gauge to start the hold. Touch nothing until it is due.',
      band: { low: (Number(tightness) * 0.9).toFixed(0), high: above(tightness, '10') },
      seconds: holdSeconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'settle',
    }),
    soapTheRig('rig', 'hold', 'The gauge fell. Before this is charged to the pipework, soap the rig.'),
    restoreList(
      [
        step('bleed', 'Air let down to zero; rig removed; ends left closed'),
        step('hand-over', 'Handed over for connecting; nothing gassed before it is purged'),
      ],
      ['purge'],
    ),
    makeSafeList([step('bleed', 'Air let down to zero before any joint is remade'), step('shut', 'Kept apart from the supply, labelled')]),
  ];
  return good(
    card.course({
      filled: 'gas',
      medium: 'air',
      unit: 'mbar',
      phases,
      highest: above(tightness, '10'),
      limit: figure('coarsest'),
      instruments: { strength: strong },
      demands: { strength: { highest: above(strength, '50'), limit: '50', unit: 'mbar' } },
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          what: 'the new pipework',
          contents: gasIn(volume.totalL),
          unit: 'L/h',
          alsoAssumes: [inletHolds],
          longer: { figure: 'tightness-seconds' },
        },
      ],
      boundaries: boundaries('The supply before the line', 'Nothing: these are ends'),
      conclusions: [
        {
          when: [[on('rig-strength', 'bubbles')], [on('rig', 'bubbles')]],
          verdict: 'inconclusive',
          reason: 'rig-leaks',
        },
        { when: after('rig-strength', 'dry'), verdict: 'fail', reason: 'strength-fall', about: 'strength' },
        { when: after('rig', 'dry'), verdict: 'fail', reason: 'fall', about: 'hold' },
        {
          when: [[on('strength', 'tight'), on('hold', 'tight')]],
          verdict: 'pass',
          reason: 'tight-strength',
          about: 'hold',
        },
      ],
      derivation: [
        `Strength at ${Number(strength) / 1000} bar of air for ${Math.round(Number(figure('strength-seconds')) / 60)} min, then ${tightness} mbar.`,
        ...why,
        'No fall is permitted: one step of the gauge is a fall.',
      ],
      notTested: ['Meter, regulators and appliances, which are connected afterwards', 'The supply before the line'],
      advice: storedAdvice(volume.totalL, strength, 'mbar', volume.largestNominalMm),
    }),
  );
}

function outOfScope(answers: Input['answers']): readonly Problem[] {
  const problems: Problem[] = [];
  if (answers.medium === 'oxygen')
    problems.push({ code: 'medium-oxygen', field: 'medium', message: 'Never oxygen: with oil or grease it explodes. Use air.' });
  if (answers.work === 'new' && answers.medium === 'gas')
    problems.push({ code: 'medium-fuel', field: 'medium', message: 'Never raise fuel gas in new pipework. Use air.' });
  if (answers.work === 'existing' && answers.level === 'above' && mbar(answers, 'standing') < mbar(answers, 'operating'))
    problems.push({
      code: 'standing-below',
      field: 'standing',
      message: 'The pressure it stands at is under the operating one. Correct one of them.',
    });
  return problems;
}

export const gasLeakRateProcedure: Procedure = {
  id: 'gas-leak-rate',
  version: '1',
  title: 'Gas leak rate',
  school: 'Litres-per-hour school',
  purpose:
    'Measures how many litres an hour an existing gas line loses, and says whether it may stay in use; proves new pipework by strength and tightness.',
  systemKinds: ['gas', 'propane'],
  plant,
  medium: 'the gas itself at working pressure, or air',
  volumeFrom: 'pipes',
  presumed: ['line'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['level'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [{ role: 'strength', label: 'Strength gauge', quantity: 'pressure', needed: ({ work }) => work === 'new', orGauge: true }],
  parameters,
  figures,
  ...sheet,
  outOfScope,
  course: (input) => (input.answers.work === 'new' ? newPipework(input) : serviceability(input)),
  phases: card.names,
  example,
  faults,
  breaches,
};
