import { fromSi, good, type Problem, type Result, toSi, type VolumeUnit } from '../../quantities';
import { bandUnderRating, overRating, parseComponents, seenBy, weakest } from '../../sizing/components';
import { oneStep } from '../../sizing/gas-hold';
import type { Instrument } from '../../sizing/gauge';
import { airAtPressure, isSoft, softnessOf, type WaterPipe, waterIn, waterPipeOptions } from '../../sizing/water-hold';
import { optionalIn, pipeFromRuns } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { relaxed, relaxingConclusions, relaxingStages } from '../relaxation';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Heating and water pipework, hydraulic, in two stages (DOMAIN 5.10). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  air: 'air-at-most',
  'stage-1': 'no-fall',
  'top-up': 'check',
  'stage-1-again': 'no-fall',
  'rig-1': ['dry', 'bubbles'],
  'stage-2': 'no-fall',
  rig: ['dry', 'bubbles'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, getReady, holdPhase, makeSafeList, measurePhase, on, restoreList, soapTheRig, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'times', label: 'Test pressure over nominal at least', value: '1.5', unit: '×', stricter: 'higher', bound: '2' },
  { id: 'most-times', label: 'Test pressure over nominal at most', value: '2', unit: '×', stricter: 'lower', bound: '1.5' },
  { id: 'soft-threshold', label: 'Soft pipe: a fall counts from', value: '0.05', unit: 'bar', stricter: 'lower', bound: '0.01' },
  { id: 'raise-above', label: 'Raised above the test pressure by at most', value: '0.2', unit: 'bar', stricter: 'lower', bound: '0.05' },
  { id: 'stage-seconds', label: 'Each stage', value: '300', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'relaxing-share', label: 'Soft pipe may relax by', value: '30', unit: '%', stricter: 'lower', bound: '2' },
  { id: 'guard-share', label: 'Guard gauge may fall by', value: '10', unit: '%', stricter: 'lower', bound: '2' },
  { id: 'air-most', label: 'Trapped air at most, of the volume', value: '0.04', unit: 'share', stricter: 'lower', bound: '0.001' },
  { id: 'range-least', label: 'Gauge range over test pressure at least', value: '1.5', unit: '×', stricter: 'higher', bound: '2' },
  { id: 'range-most', label: 'Gauge range over test pressure at most', value: '3', unit: '×', stricter: 'lower', bound: '2' },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '0.1', unit: 'bar', stricter: 'lower', bound: '0.001' },
] as const satisfies Figures;

const services = {
  heating: { label: 'Heating', nominal: 2 },
  hot: { label: 'Hot water', nominal: 4.5 },
  cold: { label: 'Cold water', nominal: 6 },
} as const;
type Service = keyof typeof services;

const parameters = [
  askChoice(
    'service',
    'Service',
    (Object.keys(services) as Service[]).map((key) => [key, services[key].label] as const),
    'Its usual nominal pressure: heating 2, hot water 4.5, cold water 6 bar.',
  ),
  askQuantity(
    'nominal',
    'Nominal pressure, if another',
    'pressure',
    'bar',
    '',
    ['0.5', '16'],
    'Left empty, the usual one of the service.',
    { optional: true },
  ),
  askQuantity(
    'test',
    'Test pressure, if more is asked',
    'pressure',
    'bar',
    '',
    ['0.75', '32'],
    'Left empty, 1.5 times the nominal. At most twice the nominal, and never more than the weakest part bears.',
    { optional: true },
  ),
  askChoice('pipe', 'Pipe', waterPipeOptions, 'Soft pipe (PEX, multilayer) relaxes and is topped up once; rigid pipe is not.'),
  {
    kind: 'components',
    id: 'components',
    label: 'What the pressure reaches',
    help: 'A line each: name, rating, height above the gauge. Boiler 3bar +2m',
    usual: '',
  },
  askChoice(
    'air',
    'Measure the trapped air',
    [
      ['yes', 'Yes, by the water that the last bar takes'],
      ['no', 'No'],
    ],
    'More than 4 % of air hides a leak.',
  ),
  askChoice(
    'shown',
    'Done',
    [
      ['alone', 'For oneself'],
      ['shown', 'Shown to the customer or a witness'],
    ],
    'First for oneself, then as another attempt with the witness.',
  ),
] as const satisfies Asked;
const asked = { parameters };
const nominalBar = (answers: Input['answers']): number =>
  optionalIn(asked, answers, 'nominal', 'bar') ?? services[(answers.service as Service) ?? 'heating'].nominal;
const testBar = (answers: Input['answers'], figure: Input['figure']): number =>
  optionalIn(asked, answers, 'test', 'bar') ?? nominalBar(answers) * Number(figure('times'));

function course({ answers, figure, gauge, instruments, volume }: Input): Result<Course> {
  const nominal = nominalBar(answers);
  const test = testBar(answers, figure);
  const most = nominal * Number(figure('most-times'));
  const { components } = parseComponents(answers.components ?? '');
  const band = bandUnderRating(test, Number(figure('raise-above')), most, components, 'water', 'bar', 2);
  const { ceiling } = band;
  const soft = isSoft(answers.pipe);
  // Soft pipe creeps after its top-up: a fine gauge's own step would call that a leak.
  const step1 = oneStep(gauge, 'bar');
  const threshold = soft && Number(figure('soft-threshold')) > Number(step1) ? figure('soft-threshold') : step1;
  const seconds = Number(figure('stage-seconds'));
  const pipe = answers.pipe as WaterPipe;
  const allowedAir = airAtPressure(Number(figure('air-most')), toSi(Number(band.low), 'bar'));
  const airTest = answers.air === 'yes';
  const pump = instruments.pump as Instrument<VolumeUnit> | undefined;
  const least = weakest(components, toSi(Number(band.high), 'bar'), 'water');
  const ready = airTest ? after('air', 'within') : after('zero', 'zeroed');
  const start = airTest ? 'air' : 'stage-1';

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('told', 'Everyone on site told: no water, no valve turned'),
        step('cold', 'Filled with cold water, so that cooling does not look like a leak'),
        step('bled', 'Air let out at every high point until water runs clear of it'),
        edge('ends', 'Every end plugged or capped; open valves open'),
        step('removed', 'Safety valves, expansion vessels and what bears less isolated or taken off', {
          mayNotApply: true,
          boundary: 'removed',
        }),
        edge('supply', 'Supply isolated; what lies beyond it can see no pressure', { plugged: 'Isolated' }),
        step('relief', 'Pump with its own gauge and relief'),
        ...(answers.shown === 'shown'
          ? [step('witness', 'Customer or witness here; name written down', { write: 'Name of the witness' })]
          : []),
      ],
      ['pressure', 'backflow'],
    ),
    zeroGauge(gauge.readability),
    ...(airTest
      ? [
          measurePhase({
            id: 'air',
            title: 'Trapped air',
            say: 'Read gauge and water pumped at the lower pressure, pump to the test pressure, and read both again.',
            cautions: ['pressure'],
            fields: [
              { quantity: 'pressure', label: 'Pressure' },
              { quantity: 'volume', label: 'Water pumped so far', instrument: 'pump' },
            ],
            points: [
              { id: 'low', label: 'Lower pressure', aim: (test / 2).toFixed(2) },
              { id: 'high', label: 'Test pressure', aim: band.low },
            ],
            limit: {
              kind: 'air-at-most',
              litres: volume.totalL.toFixed(3),
              softness: softnessOf(pipe).toFixed(4),
              atmosphereHpa: '1013.25',
              most: figure('air-most'),
            },
            restartFrom: 'prepare',
          }),
        ]
      : []),
    ...(soft
      ? relaxingStages(card, {
          band: { low: band.low, high: band.high },
          ceiling,
          seconds,
          threshold,
          share: figure('relaxing-share'),
          when: ready,
          restartFrom: start,
        })
      : [
          holdPhase({
            id: 'stage-1',
            title: 'Stage 1',
            purpose: 'tightness',
            cautions: ['pressure'],
            when: ready,
            say: 'Raise slowly into the band, shut and disconnect the pump, and read the gauge.',
            band: { low: band.low, high: band.high },
            ceiling,
            seconds,
            limit: { kind: 'no-fall', threshold },
            restartFrom: 'stage-1',
          }),
        ]),
    soapTheRig(
      'rig-1',
      'stage-1',
      'The gauge fell. Before this is charged to the pipes, look at the pump’s valve, the hose and the gauge’s joint.',
      ['fall'],
      'water',
    ),
    holdPhase({
      id: 'stage-2',
      title: 'Stage 2',
      purpose: 'tightness',
      when: soft ? relaxed : after('stage-1', 'tight'),
      say: 'Read the gauge to start the second stage. Touch nothing until it is due.',
      band: soft
        ? { low: Math.min(Number(band.low), nominal * Number(figure('times'))).toFixed(2), high: band.high }
        : { low: (Number(band.low) - Number(threshold)).toFixed(2), high: band.high },
      ceiling,
      seconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'stage-2',
    }),
    soapTheRig(
      'rig',
      'stage-2',
      'The gauge fell. Look at the pump’s valve, the hose and the gauge’s joint first, then at every joint.',
      ['fall'],
      'water',
    ),
    restoreList(
      [
        step('nominal', `Let down to ${nominal.toFixed(2)} bar; pump off, gauge left on as a guard`, { to: nominal.toFixed(2) }),
        step('guard', 'Guard gauge read with the pipe’s temperature', { write: 'Reading and temperature', guard: true }),
        stepIf('refit', 'Safety valve, vessel and what was taken off back on'),
        step('told', 'Those who work on told: a fall of the gauge is damage, and is reported'),
      ],
      ['pressure'],
    ),
    makeSafeList([
      step('down', 'Pressure let down before any joint is remade'),
      step('shut', 'Left shut and labelled; nobody closes a wall over it'),
      step('told', 'Those who work on told what was found'),
    ]),
  ];
  const stage2 = on('stage-2', 'tight');

  return good(
    card.course({
      filled: 'water',
      unit: 'bar',
      phases,
      highest: band.low,
      limit: figure('coarsest'),
      demand: { rangeAtLeast: figure('range-least'), rangeAtMost: figure('range-most') },
      ...(pump === undefined
        ? {}
        : { instruments: { pump }, demands: { pump: { highest: pump.readability, limit: '0.1', unit: 'L' as const } } }),
      judgedBy: 'stage-2',
      guard: { pipe: answers.pipe as WaterPipe, relaxingShare: figure('relaxing-share'), alarmShare: figure('guard-share') },
      sees: [
        {
          phase: 'stage-2',
          what: 'the system',
          contents: waterIn(volume.totalL, pipe, airTest ? allowedAir : undefined),
          unit: 'L/h',
          airBy: airTest ? ('air' as const) : undefined,
          alsoAssumes: ['what closes its ends and its supply lets nothing by'],
          longer: { figure: 'stage-seconds' },
        },
      ],
      boundaries: [
        { id: 'ends', label: 'Plugs and caps on open ends', beyond: 'Nothing: these are ends' },
        { id: 'supply', label: 'Isolated supply', beyond: 'The supply beyond its valve' },
        {
          id: 'removed',
          label: 'What was isolated or taken off',
          beyond: 'Safety valves, vessels and appliances that were isolated or taken off',
        },
      ],
      conclusions: [
        ...(soft ? relaxingConclusions : relaxingConclusions.filter(({ reason }) => reason !== 'still-relaxing')),
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: after('rig', 'dry'), verdict: 'fail', reason: 'fall', about: 'stage-2' },
        {
          when: [[stage2]],
          verdict: 'pass',
          reason: 'tight',
          about: 'stage-2',
          offer: answers.shown === 'shown' ? undefined : { label: 'Show it: the witnessed attempt', answers: { shown: 'shown' } },
        },
      ],
      derivation: [
        `Nominal ${nominal} bar; tested at ${band.low}, at most ${most.toFixed(2)}, which is ${figure('most-times')} times the nominal.`,
        soft
          ? `Soft pipe (${answers.pipe}) relaxes: it is topped up once after stage 1; needing it again proves nothing.`
          : 'Rigid pipe does not relax: a fall in either stage fails, and nothing is topped up.',
        soft
          ? `Soft pipe still creeps after its top-up: a fall counts from ${threshold} bar in stage 2, and begins again inside the test band.`
          : `Rigid pipe: one step of the gauge, ${threshold} bar, is a fall, and none is permitted.`,
      ],
      notTested: [
        'The supply beyond its valve',
        'What was isolated or taken off',
        ...(airTest ? [] : ['Trapped air, which hides leaks: it was not measured']),
      ],
      advice: [
        ...(least === undefined
          ? []
          : [
              `Weakest: ${least.name}, bears ${fromSi(least.ratingPa, 'bar').toFixed(1)} bar and sees ${fromSi(seenBy(least, toSi(Number(band.high), 'bar'), 'water'), 'bar').toFixed(2)}.`,
            ]),
        ...(soft ? ['Sun or warming may raise or lower the gauge on soft pipe: no figure can be given for it.'] : []),
        ...(airTest ? [] : ['Trapped air is not measured: it would hide a leak, and nobody would know.']),
      ],
    }),
  );
}

function outOfScope(answers: Input['answers'], _: unknown, figure: Input['figure']): readonly Problem[] {
  const problems: Problem[] = [];
  const nominal = nominalBar(answers);
  const test = testBar(answers, figure);
  const [least, most] = [nominal * Number(figure('times')), nominal * Number(figure('most-times'))];
  if (test < least - 1e-9)
    problems.push({
      code: 'test-low',
      field: 'test',
      message: `The test pressure must be at least ${figure('times')} times the nominal, ${least.toFixed(2)} bar.`,
    });
  if (test > most + 1e-9)
    problems.push({
      code: 'test-over-twice',
      field: 'test',
      message: `The test pressure may be at most ${figure('most-times')} times the nominal, ${most.toFixed(2)} bar.`,
    });
  const over = overRating(parseComponents(answers.components ?? '').components, toSi(test, 'bar'), 'water', 'bar');
  if (over !== undefined) problems.push(over);
  return problems;
}

export const heatingHydraulic: Procedure = {
  id: 'heating-hydraulic',
  version: '1',
  title: 'Heating and water, hydraulic',
  school: 'Two-stage school',
  purpose:
    'Shows with cold water under pressure that heating or water pipework holds, in a stage that lets soft pipe relax and a stage that judges.',
  systemKinds: ['heating', 'water', 'component'],
  plant,
  medium: 'cold water',
  volumeFrom: 'pipes',
  fromPipes: pipeFromRuns,
  volumeDecides: ({ air }) => air !== 'no',
  presumed: ['nominal', 'test', 'components', 'air', 'shown'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['shown'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [{ role: 'pump', label: 'Pump’s water count', quantity: 'volume', needed: ({ air }) => air === 'yes' }],
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
