import type { CheckItem } from '../../course/phases';
import { atmosphereAt, compare, decimal, fromSi, good, type Problem, type Result, refuse, subtract, toSi, toText } from '../../quantities';
import { bandUnderRating, overRating, parseComponents } from '../../sizing/components';
import { cubicFeet, gasIn, oneStep, storedAdvice } from '../../sizing/gas-hold';
import type { Gauge } from '../../sizing/gauge';
import { type HoldTime, holdByVolume, minutesOf } from '../../sizing/volume-hold';
import { optionalIn, quantityIn } from '../answers';
import { cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { parameters } from './questions';
import { sheet } from './sheet';

/** Gas piping under air, psi school, in two stages (DOMAIN 5.3). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  'open-stops': 'check',
  'zero-fine': 'zero',
  'hold-open': 'no-fall',
  'rig-open': ['dry', 'bubbles'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, conclude, checkPhase, holdPhase, on, soapTheRig, zeroPhase } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const defaultFloor = 900;

const figures = [
  { id: 'low-pressure', label: 'Test pressure, under 1 psi working', value: '3', unit: 'psi', stricter: 'higher', bound: '15' },
  { id: 'hybrid-pressure', label: 'Test pressure, 2-psi systems', value: '10', unit: 'psi', stricter: 'higher', bound: '60' },
  { id: 'working-times', label: 'Test pressure over working pressure', value: '1.5', unit: '×', stricter: 'higher', bound: '10' },
  { id: 'raise-above', label: 'Raised above the test pressure by at most', value: '0.5', unit: 'psi', stricter: 'lower', bound: '0.1' },
  { id: 'floor-seconds', label: 'Shortest stage 1 hold', value: String(defaultFloor), unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'short-seconds', label: 'Short hold with a code reference', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  {
    id: 'per-500ft3-seconds',
    label: 'Stage 1 hold for each 500 ft³ begun',
    value: '1800',
    unit: 's',
    stricter: 'higher',
    bound: '86400',
  },
  { id: 'stage-2-seconds', label: 'Stage 2 hold', value: '1800', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'stage-2-most', label: 'Stage 2 pressure at most', value: '1', unit: 'psi', stricter: 'lower', bound: '0.25' },
  { id: 'stage-2-readability', label: 'Stage 2 gauge’s step at most', value: '0.05', unit: 'psi', stricter: 'lower', bound: '0.001' },
  { id: 'range-times', label: 'Gauge range over test pressure at most', value: '5', unit: '×', stricter: 'lower', bound: '1.5' },
  { id: 'certificate-years', label: 'Gauge certificate at most', value: '3', unit: 'years', stricter: 'lower', bound: '1' },
] as const satisfies Figures;

const asked = { parameters };

const prepareItems = (connected: string): readonly CheckItem[] => [
  step('told', 'Occupants told: no gas until you say so'),
  step('supply-off', 'Supply shut off upstream and the meter disconnected or blanked', { boundary: 'supply-end' }),
  edge('stops', 'Every appliance stop shut, and the drop behind it open to the air', { plant: 'isolate', plugged: 'Shut' }),
  edge(
    'low-rated',
    `Appliances and regulators rated under the test pressure disconnected and capped: a closed stop is no isolation${connected === '' ? '' : `. Connected stays: ${connected}`}`,
    { mayNotApply: true },
  ),
  edge('open-ends', 'Every other open end plugged or capped'),
  step('rig', 'Rig with its own relief and valve, sound and tight; hoses secured against whip'),
  step('wear', 'Eye protection on; nobody in line with a plug or cap'),
];

/** What holds 15 min whatever its volume, in words; undefined for all else (DOMAIN 5.3). */
const small = ({ building }: Input['answers'], litres: number): string | undefined =>
  building === 'single dwelling' ? 'a single dwelling' : Number(cubicFeet(litres).toFixed(6)) < 10 ? 'less than 10 ft³' : undefined;

/** Time of stage 1 for a volume. */
function stageOneTime({ answers, figure }: Pick<Input, 'answers' | 'figure'>, litres: number): HoldTime {
  const floorSeconds = Number(figure('floor-seconds'));
  const own = optionalIn(asked, answers, 'asked', 's');
  return holdByVolume({
    cubicFeet: cubicFeet(litres),
    floorSeconds,
    secondsPer500: Number(figure('per-500ft3-seconds')),
    floorIsHouse: floorSeconds > defaultFloor,
    small: small(answers, litres),
    ...((answers['short-code'] ?? '').trim() === ''
      ? {}
      : { short: { seconds: Number(figure('short-seconds')), reference: answers['short-code'] } }),
    askedSeconds: own,
  });
}

/** To a hundredth, never above: a rating is a ceiling. */
const roundedDown = (value: number): string => (Math.floor(value * 100 + 1e-6) / 100).toFixed(2);

const rigCheck = (id: 'rig' | 'rig-open', after: 'hold' | 'hold-open') =>
  soapTheRig(
    id,
    after,
    'The gauge fell. Before this is charged to the piping, put leak-detection fluid on the rig’s own joints, the gauge and the valve.',
  );

function course(input: Input): Result<Course> {
  const { answers, figure, gauge, instruments, volume } = input;
  const both = answers.stages === 'both';
  const hybrid = fromSi(quantityIn(asked, answers, 'working'), 'psi') >= 1;
  const pressure = figure(hybrid ? 'hybrid-pressure' : 'low-pressure');
  const fine = (instruments.fine as Gauge | undefined) ?? gauge;
  const threshold = oneStep(gauge, 'psi');
  const fineThreshold = oneStep(fine, 'psi');
  const time = stageOneTime(input, volume.systemL);
  if (time.askedTooLittle)
    return refuse({
      code: 'hold-under-floor',
      field: 'asked',
      message: `The hold asked for is shorter than what is due here, ${minutesOf(time.seconds)} min. Leave it empty, or ask for more.`,
    });
  const air = atmosphereAt(quantityIn(asked, answers, 'altitude'));
  if (!air.ok) return refuse({ ...air.problem, field: 'altitude' });
  const atmosphereHpa = (air.value / 100).toFixed(2);
  // The tolerance lies above the test pressure, and below it where a part that stays connected bears no more.
  const {
    low: from,
    high: to,
    ceiling: bears,
  } = bandUnderRating(
    Number(pressure),
    Number(figure('raise-above')),
    Number.POSITIVE_INFINITY,
    parseComponents(answers.components ?? '').components,
    'gas',
    'psi',
    2,
  );
  const band = { low: from, high: to };
  const rating = decimal(both ? roundedDown(fromSi(quantityIn(asked, answers, 'lowest-rating'), 'psi')) : '0');
  const most = decimal(figure('stage-2-most'));
  const second = toText(compare(rating, most) < 0 ? rating : most);
  const secondSeconds = Number(figure('stage-2-seconds'));

  const phases: readonly PhaseIn<Names>[] = [
    checkPhase({
      id: 'prepare',
      title: 'Get ready',
      cautions: ['licence', 'gas', 'energy'],
      say: 'Go through the list before anything is raised.',
      items: prepareItems((answers.components ?? '').trim().split('\n').join('; ')),
    }),
    zeroPhase({ id: 'zero', title: 'Zero the gauge', say: 'Gauge open to the air: read it. It must show zero.', below: gauge.readability }),
    holdPhase({
      id: 'hold',
      title: 'Stage 1 hold',
      purpose: 'tightness',
      cautions: ['energy'],
      band,
      seconds: time.seconds,
      limit: { kind: 'no-fall', threshold },
      ceiling: (answers.components ?? '').trim() === '' ? undefined : bears,
      restartFrom: 'hold',
      say: 'Raise slowly into the band, shut off and disconnect the supply, let the gauge stand, and read it. Read pipe temperature and barometer too.',
    }),
    rigCheck('rig', 'hold'),
    ...(both ? secondStage(fine, fineThreshold, second, secondSeconds) : []),
    checkPhase({
      id: 'restore',
      title: 'Restore',
      closing: true,
      afterStop: true,
      cautions: ['purge'],
      say: 'Put everything back. The test stays open until this list is done.',
      when: [[{ conclusion: 'pass' }]],
      items: [
        stepIf('tag', 'The pressure stood for the inspector; tag hung, or its reference written down', { write: 'Tag or reference' }),
        step('bleed', 'Pressure let down to zero; rig removed; the port closed'),
        stepIf('reconnect', 'What was disconnected is connected again, its joints soaped once gas is on'),
        step('purge', 'Purged and relit as your licence allows, no ignition source near; or left shut and labelled'),
      ],
    }),
    checkPhase({
      id: 'make-safe',
      title: 'Leave it safe',
      closing: true,
      afterStop: true,
      say: 'This test proved no tightness. Leave the piping safe; the test stays open until this list is done.',
      when: [[{ conclusion: 'other' }]],
      items: [
        step('bleed', 'Pressure let down to zero before any joint is remade'),
        step('shut', 'Supply shut and labelled, so that nobody uses gas'),
        step('told', 'Whoever waits for gas told what was found'),
      ],
    }),
  ];

  const beyond = both ? 'Appliances behind their own closed controls' : 'The drops, controls and appliances beyond the stops';
  return good(
    card.course({
      filled: 'gas',
      medium: answers.medium,
      atmosphereHpa,
      unit: 'psi',
      phases,
      highest: pressure,
      limit: threshold,
      demand: { rangeAtMost: figure('range-times'), certificateYears: Number(figure('certificate-years')) },
      instruments: both ? { fine } : undefined,
      demands: both
        ? {
            fine: {
              highest: second,
              limit: figure('stage-2-readability'),
              unit: 'psi' as const,
              certificateYears: Number(figure('certificate-years')),
            },
          }
        : undefined,
      judgedBy: 'hold',
      sees: [
        ...(both
          ? [
              {
                phase: 'hold-open' as const,
                what: 'the controls, with the stops open',
                contents: gasIn(volume.totalL),
                unit: 'L/h' as const,
                longer: { figure: 'stage-2-seconds' },
              },
            ]
          : []),
        {
          phase: 'hold' as const,
          what: 'the piping up to the stops',
          contents: gasIn(volume.totalL),
          unit: 'L/h' as const,
          longer: { answer: 'asked' },
        },
      ].reverse(),
      boundaries: [
        { id: 'supply-end', label: 'Supply end', beyond: 'The supply upstream' },
        { id: 'stops', label: 'Appliance stops', beyond },
        { id: 'low-rated', label: 'Caps where low-rated parts were taken off', beyond: 'What was taken off' },
        { id: 'open-ends', label: 'Plugs and caps on open ends', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        {
          when: [[on('rig', 'bubbles')], ...(both ? after('rig-open', 'bubbles') : [])],
          verdict: 'inconclusive',
          reason: 'rig-leaks',
        },
        { when: after('rig', 'dry'), verdict: 'fail', reason: 'fall', about: 'hold' },
        ...(both
          ? [
              conclude({ when: after('rig-open', 'dry'), verdict: 'fail', reason: 'controls-fall', about: 'hold-open' }),
              conclude({
                when: [[on('hold', 'tight'), on('hold-open', 'tight')]],
                verdict: 'pass',
                reason: 'tight-both-stages',
                about: 'hold-open',
              }),
            ]
          : [conclude({ when: after('hold', 'tight'), verdict: 'pass', reason: 'tight-to-stops', about: 'hold' })]),
      ],
      derivation: [
        hybrid
          ? `A 2-psi system is tested at ${pressure} psi, the whole of it, since a regulator may fail.`
          : `A system under 1 psi working is tested at ${pressure} psi.`,
        'No fall is permitted: one step of the gauge is a fall.',
        ...time.why,
        `Stage 1 holds ${minutesOf(time.seconds)} min.`,
        ...(both
          ? [
              `Stage 2 goes to ${second} psi, the lowest rating of the controls or ${toText(most)} psi, for ${minutesOf(secondSeconds)} min.`,
            ]
          : []),
      ],
      notTested: ['The supply upstream', beyond, 'What was disconnected for the test'],
      advice: [
        ...(volume.lowestL === undefined
          ? []
          : [
              `With the low estimate of ${volume.lowestL.toFixed(1)} L it would hold ${minutesOf(stageOneTime(input, volume.lowestL - volume.rigHoseL).seconds)} min; it is planned for the larger, ${volume.totalL.toFixed(1)} L.`,
            ]),
        ...storedAdvice(volume.totalL, band.high, 'psi', volume.largestNominalMm),
        ...(time.seconds >= 3600
          ? ['So long a hold needs pipe temperature and barometer at start and end; overnight that is two visits.']
          : []),
      ],
    }),
  );
}

/** Stage 2: with the stops open, on the fine gauge, no higher than the weakest control bears. */
const secondStage = (fine: Gauge, threshold: string, pressure: string, seconds: number): readonly PhaseIn<Names>[] => [
  checkPhase({
    id: 'open-stops',
    title: 'Open the stops',
    cautions: ['over-pressure'],
    when: after('hold', 'tight'),
    say: 'Let the pressure down to zero first, then open every stop.',
    items: [
      stepIf('first-tag', 'The pressure stood for the inspector; tag after stage 1, where one is wanted', { write: 'Tag or reference' }),
      step('drained', 'Drained to zero, seen on the gauge', { to: '0' }),
      step('opened', 'Every stop and regulator valve open; appliance controls shut', { plant: 'reconnect' }),
      step('fine-gauge', 'Fine gauge fitted'),
    ],
  }),
  zeroPhase({
    id: 'zero-fine',
    title: 'Zero the fine gauge',
    instrument: 'fine',
    when: after('open-stops', 'done'),
    say: 'Fine gauge open to the air: read it. It must show zero.',
    below: fine.readability,
  }),
  holdPhase({
    id: 'hold-open',
    title: 'Stage 2 hold',
    purpose: 'tightness',
    cautions: ['over-pressure'],
    instrument: 'fine',
    when: after('zero-fine', 'zeroed'),
    band: { low: toText(subtract(decimal(pressure), decimal('0.1'))), high: pressure },
    ceiling: pressure,
    seconds,
    limit: { kind: 'no-fall', threshold },
    restartFrom: 'hold-open',
    say: 'Raise with great care into the band, shut off and disconnect the supply, and read the fine gauge. More would damage diaphragms.',
  }),
  rigCheck('rig-open', 'hold-open'),
];

function outOfScope(answers: Input['answers'], volume: { readonly systemL: number }, figure: Input['figure']): readonly Problem[] {
  const problems: Problem[] = [];
  const refused = (code: string, field: string, message: string) => problems.push({ code, field, message });
  const working = fromSi(quantityIn(asked, answers, 'working'), 'psi');
  const pressure = Number(figure(working >= 1 ? 'hybrid-pressure' : 'low-pressure'));
  const times = figure('working-times');
  if (answers.medium === 'oxygen')
    refused('medium-oxygen', 'medium', 'Never oxygen: with oil or grease it explodes. Use air, nitrogen or carbon dioxide.');
  if (answers.medium === 'fuel gas')
    refused('medium-fuel', 'medium', 'Never raise fuel gas for this test. Use air, nitrogen or carbon dioxide.');
  if (working > 2.0005)
    refused('scope-working', 'working', 'This procedure ends at 2 psi working pressure. Above it the engineer and the code set the test.');
  else if (pressure < working * Number(times))
    refused(
      'test-pressure-low',
      'working',
      `The test pressure must be at least ${times} times the working one. Raise the house rule on it.`,
    );
  const connected = parseComponents(answers.components ?? '').components;
  const over = overRating(connected, toSi(pressure, 'psi'), 'gas', 'psi');
  if (over !== undefined) problems.push(over);
  if ((answers['short-code'] ?? '').trim() !== '' && small(answers, volume.systemL) === undefined)
    refused(
      'short-not-allowed',
      'short-code',
      `A 10-minute test is for a single dwelling or less than 10 ft³; this is ${cubicFeet(volume.systemL).toFixed(1)} ft³ in another building. Leave the reference empty.`,
    );
  return problems;
}

export const gasPipingPsi: Procedure = {
  id: 'gas-piping-psi',
  version: '1',
  title: 'Gas piping under air',
  school: 'Psi school',
  purpose: 'Shows that gas piping holds air up to its stops, and then with the stops open, before any gas is let in.',
  systemKinds: ['gas'],
  plant,
  medium: 'air, nitrogen or carbon dioxide',
  volumeFrom: 'pipes',
  volumeDecides: ({ building }) => building !== 'single dwelling',
  presumed: ['stages', 'components', 'short-code', 'asked', 'altitude'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [
    { role: 'fine', label: 'Fine gauge for stage 2', quantity: 'pressure', needed: ({ stages }) => stages === 'both', orGauge: true },
  ],
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
