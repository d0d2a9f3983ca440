import { answerLabel, optionalIn, quantityIn } from '../planning/answers';
import { overRating, parseComponents } from '../planning/components';
import { cubicFeet, gasSight, oneStep, secondsForLeak, storedAdvice } from '../planning/gas-hold';
import type { Gauge } from '../planning/gauge';
import {
  add,
  atmosphereAt,
  compare,
  decimal,
  fromSi,
  good,
  type Problem,
  type Result,
  refuse,
  subtract,
  toSi,
  toText,
} from '../quantities';
import { simulatedGauge } from './example-instruments';
import { checkPhase, holdPhase, observePhase, zeroPhase } from './phase-shapes';
import type { CheckItem, Correction, ObservePhase, Phase } from './phases';
import type { Answers, Course, CourseInput, Parameter, Procedure } from './procedure';

/** Gas piping under air, psi school, in two stages (DOMAIN 5.3). */

const parameters: readonly Parameter[] = [
  {
    kind: 'choice',
    id: 'stages',
    label: 'Stages',
    help: 'Stage 1 alone certifies the piping up to the stops, and nothing beyond.',
    default: 'both',
    options: [
      { value: 'both', label: 'Both: up to the stops, then with the stops open' },
      { value: 'first', label: 'Stage 1 alone' },
    ],
  },
  {
    kind: 'quantity',
    quantity: 'pressure',
    id: 'working',
    label: 'Working pressure',
    help: 'Under 1 psi is tested at 3 psi; a 2-psi system at 10 psi, the whole of it, since a regulator may fail.',
    unit: 'psi',
    default: '0.25',
    least: '0.01',
    most: '100',
  },
  {
    kind: 'choice',
    id: 'medium',
    label: 'Test gas',
    help: 'Never oxygen, never fuel gas.',
    default: 'air',
    options: [
      { value: 'air', label: 'Air' },
      { value: 'nitrogen', label: 'Nitrogen' },
      { value: 'carbon dioxide', label: 'Carbon dioxide' },
      { value: 'oxygen', label: 'Oxygen' },
      { value: 'fuel gas', label: 'Fuel gas' },
    ],
  },
  {
    kind: 'quantity',
    quantity: 'pressure',
    id: 'lowest-rating',
    askedFor: { answer: 'stages', is: ['both'] },
    label: 'Lowest rating of the controls',
    help: 'Stage 2 goes no higher: many controls are rated ½ psi.',
    unit: 'psi',
    default: '0.5',
    least: '0.15',
    most: '100',
  },
  {
    kind: 'components',
    id: 'components',
    label: 'What stays connected in stage 1',
    help: 'A line each, with its rating: Line regulator 10 psi',
    default: '',
  },
  {
    kind: 'choice',
    id: 'building',
    label: 'Building',
    help: 'A short test needs a single dwelling or less than 10 ft³, and your code’s reference.',
    default: 'other',
    options: [
      { value: 'single dwelling', label: 'Single dwelling' },
      { value: 'other', label: 'Any other' },
    ],
  },
  {
    kind: 'text',
    id: 'short-code',
    label: 'Code reference that allows 10 min',
    help: 'Leave empty for the full time.',
    default: '',
    optional: true,
  },
  {
    kind: 'quantity',
    quantity: 'flow',
    id: 'concern',
    label: 'Leak of concern',
    help: 'The hold is lengthened until this gauge can see it.',
    unit: 'L/h',
    default: '',
    least: '0.001',
    most: '100000',
    optional: true,
  },
  {
    kind: 'quantity',
    quantity: 'time',
    id: 'asked',
    label: 'Longer hold asked for',
    help: 'Overnight, or what the inspector wants.',
    unit: 'min',
    default: '',
    least: '1',
    most: '1440',
    optional: true,
  },
  {
    kind: 'quantity',
    quantity: 'length',
    id: 'altitude',
    label: 'Altitude',
    help: 'Sets the atmosphere where no barometer is read.',
    unit: 'm',
    default: '0',
    least: '-400',
    most: '5000',
  },
];
const asked = { parameters };

const prepareItems = (connected: string): readonly CheckItem[] => [
  { id: 'told', text: 'Occupants told: no gas until you say so', mayNotApply: false },
  { id: 'supply-off', text: 'Supply shut off upstream and the meter disconnected or blanked', mayNotApply: false, boundary: 'supply-end' },
  {
    id: 'stops',
    text: 'Every appliance stop shut, and the drop behind it open to the air',
    mayNotApply: false,
    boundary: 'stops',
    plant: 'isolate',
  },
  {
    id: 'low-rated',
    text: `Appliances and regulators rated under the test pressure disconnected and capped: a closed stop is no isolation${connected === '' ? '' : `. Connected stays: ${connected}`}`,
    mayNotApply: true,
    boundary: 'low-rated',
  },
  { id: 'open-ends', text: 'Every other open end plugged or capped', mayNotApply: false, boundary: 'open-ends' },
  { id: 'rig', text: 'Rig with its own relief and valve, sound and tight; hoses secured against whip', mayNotApply: false },
  { id: 'wear', text: 'Eye protection on; nobody in line with a plug or cap', mayNotApply: false },
];

const short = (answers: Answers, litres: number): boolean =>
  (answers['short-code'] ?? '').trim() !== '' && (answers.building === 'single dwelling' || cubicFeet(litres) < 10);

/** Seconds of stage 1 with the sentences that derive them: the longest of all that ask for time, to a day. */
function stageOneTime(
  { answers, figure, volume }: CourseInput,
  forConcern: number | undefined,
): { readonly seconds: number; readonly why: readonly string[]; readonly capped: boolean; readonly under: boolean } {
  const floor = Number(figure('floor-seconds'));
  const per500 = Number(figure('per-500ft3-seconds'));
  const feet = cubicFeet(volume.totalL);
  // Rounded to a millionth first, so that every machine counts the same blocks.
  const blocks = Math.max(1, Math.ceil(Math.round((feet / 500) * 1e6) / 1e6));
  const byCode = short(answers, volume.totalL) ? Number(figure('short-seconds')) : undefined;
  // A house rule on the floor stands, whatever a code allows.
  const house = floor > defaultFloor;
  const usual = byCode !== undefined && !house ? byCode : Math.max(floor, byCode === undefined ? per500 * blocks : floor);
  const own = optionalIn(asked, answers, 'asked', 's');
  const under = own !== undefined && own < usual;
  const wanted = Math.max(usual, own === undefined ? 0 : Math.ceil(own), forConcern ?? 0);
  const most = 86_400;
  return {
    seconds: Math.min(most, wanted),
    capped: (forConcern ?? 0) > most,
    under,
    why: [
      byCode !== undefined && !house
        ? `Time: ${minutes(byCode)} min, as ${answers['short-code']} allows for ${answers.building === 'single dwelling' ? 'a single dwelling' : 'less than 10 ft³'}. Leaks often show only after 15 min.`
        : `Time: ${feet.toFixed(2)} ft³ ask for ${minutes(per500)} min for each 500 ft³ begun, ${minutes(per500 * blocks)} min in all; the floor is ${minutes(floor)} min.`,
      ...(own === undefined ? [] : [`A hold of ${minutes(own)} min was asked for.`]),
      ...(forConcern === undefined
        ? []
        : [
            `To see the leak of concern (${answerLabel(gasPipingPsi, 'concern', answers.concern).value}) this gauge needs ${minutes(forConcern)} min.`,
          ]),
      `Stage 1 holds ${minutes(Math.min(most, wanted))} min.`,
    ],
  };
}

const minutes = (seconds: number): string => String(Number((seconds / 60).toFixed(1)));
const defaultFloor = 900;

const rigCheck = (id: string, after: string): ObservePhase =>
  observePhase({
    id,
    title: 'Soap the rig',
    say: 'The gauge fell. Before this is charged to the piping, put leak-detection fluid on the rig’s own joints, the gauge and the valve.',
    when: [[{ phase: after, outcome: ['fall'] }]],
    options: [
      { id: 'dry', label: 'No bubbles on the rig', hoped: true },
      { id: 'bubbles', label: 'Bubbles on the rig', hoped: false },
    ],
  });

function course(input: CourseInput): Result<Course> {
  const { answers, figure, gauge, instruments, volume } = input;
  const both = answers.stages === 'both';
  const hybrid = fromSi(quantityIn(asked, answers, 'working'), 'psi') >= 1;
  const pressure = figure(hybrid ? 'hybrid-pressure' : 'low-pressure');
  const fine = (instruments.fine as Gauge | undefined) ?? gauge;
  const threshold = oneStep(gauge, 'psi');
  const fineThreshold = oneStep(fine, 'psi');
  const hold = { litres: volume.totalL, pressure, threshold, unit: 'psi', unnoticedK: figure('temperature-doubt') } as const;
  const concern = optionalIn(asked, answers, 'concern', 'L/h');
  const forConcern = concern === undefined ? undefined : secondsForLeak(hold, concern);
  if (forConcern?.ok === false) return refuse({ ...forConcern.problem, field: 'concern' });
  const forLow =
    concern === undefined || volume.lowestL === undefined ? undefined : secondsForLeak({ ...hold, litres: volume.lowestL }, concern);
  const time = stageOneTime(input, forConcern?.value);
  if (time.under)
    return refuse({
      code: 'hold-under-floor',
      field: 'asked',
      message: `The hold asked for is shorter than what is due here, ${minutes(time.seconds)} min. Leave it empty, or ask for more.`,
    });
  if (time.capped)
    return refuse({
      code: 'hold-over-a-day',
      field: 'concern',
      message:
        'What is asked would take more than 24 hours on this gauge. Take a finer gauge, test in parts, or accept a larger leak of concern.',
    });
  const sight = gasSight(hold, time.seconds);
  if (!sight.ok) return sight;
  const air = atmosphereAt(quantityIn(asked, answers, 'altitude'));
  if (!air.ok) return refuse({ ...air.problem, field: 'altitude' });
  const atmosphereHpa = (air.value / 100).toFixed(2);
  const corrects = (seconds: number): { readonly corrects?: Correction } =>
    seconds < 600
      ? {}
      : {
          corrects: {
            temperatureDoubtK: figure('temperature-doubt'),
            barometerDoubtHpa: figure('barometer-doubt'),
            atmosphereHpa,
            needed: seconds >= 3600,
          },
        };
  const band = { low: pressure, high: toText(add(decimal(pressure), decimal(figure('raise-above')))) };
  const rating = decimal(both ? fromSi(quantityIn(asked, answers, 'lowest-rating'), 'psi').toFixed(2) : '0');
  const most = decimal(figure('stage-2-most'));
  const second = toText(compare(rating, most) < 0 ? rating : most);
  const secondSeconds = Number(figure('stage-2-seconds'));

  const phases: Phase[] = [
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
      criterion: { kind: 'no-fall', threshold },
      restartFrom: 'hold',
      say: 'Raise slowly into the band, shut off and disconnect the supply, let the gauge stand, and read it. Read pipe temperature and barometer too.',
      ...corrects(time.seconds),
    }),
    rigCheck('rig', 'hold'),
    ...(both ? secondStage(fine, fineThreshold, second, secondSeconds, corrects(secondSeconds)) : []),
    checkPhase({
      id: 'restore',
      title: 'Restore',
      closing: true,
      afterStop: true,
      cautions: ['purge'],
      say: 'Put everything back. The test stays open until this list is done.',
      when: [[{ conclusion: 'pass' }]],
      items: [
        { id: 'bleed', text: 'Pressure let down to zero; rig removed; the port closed', mayNotApply: false },
        { id: 'reconnect', text: 'What was disconnected is connected again, its joints soaped once gas is on', mayNotApply: true },
        { id: 'tag', text: 'Inspector’s tag hung, or its reference written down', mayNotApply: true, write: 'Tag or reference' },
        {
          id: 'purge',
          text: 'Purged and relit as your licence allows, no ignition source near; or left shut and labelled',
          mayNotApply: false,
        },
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
        { id: 'bleed', text: 'Pressure let down to zero before any joint is remade', mayNotApply: false },
        { id: 'shut', text: 'Supply shut and labelled, so that nobody uses gas', mayNotApply: false },
        { id: 'told', text: 'Whoever waits for gas told what was found', mayNotApply: false },
      ],
    }),
  ];

  const beyond = both ? 'Appliances behind their own closed controls' : 'The drops, controls and appliances beyond the stops';
  return good({
    unit: 'psi',
    phases,
    highest: pressure,
    limit: threshold,
    demand: { rangeAtMost: figure('range-times'), certificateYears: Number(figure('certificate-years')) },
    ...(both
      ? {
          instruments: { fine },
          demands: {
            fine: {
              highest: second,
              limit: figure('stage-2-readability'),
              unit: 'psi' as const,
              certificateYears: Number(figure('certificate-years')),
            },
          },
        }
      : {}),
    judgedBy: 'hold',
    sight: sight.value,
    boundaries: [
      { id: 'supply-end', label: 'Supply end', beyond: 'The supply upstream' },
      { id: 'stops', label: 'Appliance stops', beyond },
      { id: 'low-rated', label: 'Caps where low-rated parts were taken off', beyond: 'What was taken off' },
      { id: 'open-ends', label: 'Plugs and caps on open ends', beyond: 'Nothing: these are ends' },
    ],
    conclusions: [
      {
        when: [[{ phase: 'hold', outcome: ['not-reached'] }], ...(both ? [[{ phase: 'hold-open', outcome: ['not-reached'] }]] : [])],
        verdict: 'fail',
        reason: 'pressure-not-reached',
      },
      {
        when: [[{ phase: 'rig', outcome: ['bubbles'] }], ...(both ? [[{ phase: 'rig-open', outcome: ['bubbles'] }]] : [])],
        verdict: 'inconclusive',
        reason: 'rig-leaks',
      },
      { when: [[{ phase: 'rig', outcome: ['dry'] }]], verdict: 'fail', reason: 'fall', about: 'hold' },
      ...(both
        ? [
            { when: [[{ phase: 'rig-open', outcome: ['dry'] }]], verdict: 'fail' as const, reason: 'controls-fall', about: 'hold-open' },
            {
              when: [
                [
                  { phase: 'hold', outcome: ['tight'] },
                  { phase: 'hold-open', outcome: ['tight'] },
                ],
              ],
              verdict: 'pass' as const,
              reason: 'tight-both-stages',
              about: 'hold-open',
            },
          ]
        : [{ when: [[{ phase: 'hold', outcome: ['tight'] }]], verdict: 'pass' as const, reason: 'tight-to-stops', about: 'hold' }]),
    ],
    derivation: [
      hybrid
        ? `A 2-psi system is tested at ${pressure} psi, the whole of it, since a regulator may fail.`
        : `A system under 1 psi working is tested at ${pressure} psi.`,
      'No fall is permitted: one step of the gauge is a fall.',
      ...time.why,
      ...(both
        ? [`Stage 2 goes to ${second} psi, the lowest rating of the controls or ${toText(most)} psi, for ${minutes(secondSeconds)} min.`]
        : []),
    ],
    notTested: ['The supply upstream', beyond, 'What was disconnected for the test'],
    advice: [
      ...(volume.lowestL === undefined
        ? []
        : [
            `With the low estimate of ${volume.lowestL.toFixed(1)} L it would hold ${minutes(stageOneTime({ ...input, volume: { ...volume, totalL: volume.lowestL } }, forLow?.ok === true ? forLow.value : undefined).seconds)} min; it is planned for the larger, ${volume.totalL.toFixed(1)} L.`,
          ]),
      ...storedAdvice(volume.totalL, band.high, 'psi', volume.largestNominalMm),
      ...(time.seconds >= 3600
        ? ['So long a hold needs pipe temperature and barometer at start and end; overnight that is two visits.']
        : []),
    ],
  });
}

/** Stage 2: with the stops open, on the fine gauge, no higher than the weakest control bears. */
const secondStage = (
  fine: Gauge,
  threshold: string,
  pressure: string,
  seconds: number,
  corrects: { readonly corrects?: Correction },
): readonly Phase[] => [
  checkPhase({
    id: 'open-stops',
    title: 'Open the stops',
    cautions: ['over-pressure'],
    when: [[{ phase: 'hold', outcome: ['tight'] }]],
    say: 'Stage 1 held. Let the pressure down to zero first, then open every stop.',
    items: [
      { id: 'drained', text: 'Drained to zero, seen on the gauge', mayNotApply: false },
      { id: 'first-tag', text: 'Inspector’s tag after stage 1, where one is wanted', mayNotApply: true, write: 'Tag or reference' },
      { id: 'opened', text: 'Every stop and regulator valve open; appliance controls shut', mayNotApply: false, plant: 'reconnect' },
      { id: 'fine-gauge', text: 'Fine gauge fitted', mayNotApply: false },
    ],
  }),
  zeroPhase({
    id: 'zero-fine',
    title: 'Zero the fine gauge',
    instrument: 'fine',
    when: [[{ phase: 'open-stops', outcome: ['done'] }]],
    say: 'Fine gauge open to the air: read it. It must show zero.',
    below: fine.readability,
  }),
  holdPhase({
    id: 'hold-open',
    title: 'Stage 2 hold',
    purpose: 'tightness',
    cautions: ['over-pressure'],
    instrument: 'fine',
    when: [[{ phase: 'zero-fine', outcome: ['zeroed'] }]],
    band: { low: toText(subtract(decimal(pressure), decimal('0.1'))), high: pressure },
    ceiling: pressure,
    seconds,
    criterion: { kind: 'no-fall', threshold },
    restartFrom: 'hold-open',
    say: 'Raise with great care into the band, shut off and disconnect the supply, and read the fine gauge. More would damage diaphragms.',
    ...corrects,
  }),
  rigCheck('rig-open', 'hold-open'),
];

function outOfScope(answers: Answers, volume: { readonly totalL: number }, figure: (id: string) => string): readonly Problem[] {
  const problems: Problem[] = [];
  const working = fromSi(quantityIn(asked, answers, 'working'), 'psi');
  if (answers.medium === 'oxygen')
    problems.push({
      code: 'medium-oxygen',
      field: 'medium',
      message: 'Never oxygen: with oil or grease it explodes. Use air, nitrogen or carbon dioxide.',
    });
  if (answers.medium === 'fuel gas')
    problems.push({
      code: 'medium-fuel',
      field: 'medium',
      message: 'Never raise fuel gas for this test. Use air, nitrogen or carbon dioxide.',
    });
  if (working > 2.0005)
    problems.push({
      code: 'scope-working',
      field: 'working',
      message: 'This procedure ends at 2 psi working pressure. Above it the test is set by the engineer and the code.',
    });
  else if (Number(figure(working >= 1 ? 'hybrid-pressure' : 'low-pressure')) < working * Number(figure('working-times')))
    problems.push({
      code: 'test-pressure-low',
      field: 'working',
      message: `The test pressure must be at least ${figure('working-times')} times the working pressure. Raise the house rule on the test pressure.`,
    });
  const connected = parseComponents(answers.components ?? '').components;
  const top = Number(figure(working >= 1 ? 'hybrid-pressure' : 'low-pressure')) + Number(figure('raise-above'));
  const over = overRating(connected, toSi(top, 'psi'), 'gas', 'psi');
  if (over !== undefined) problems.push(over);
  if ((answers['short-code'] ?? '').trim() !== '' && !short(answers, volume.totalL))
    problems.push({
      code: 'short-not-allowed',
      field: 'short-code',
      message: `A 10-minute test is for a single dwelling or less than 10 ft³; this is ${cubicFeet(volume.totalL).toFixed(1)} ft³ in another building. Leave the reference empty.`,
    });
  return problems;
}

export const gasPipingPsi: Procedure = {
  id: 'gas-piping-psi',
  version: '1',
  title: 'Gas piping under air',
  school: 'Psi school',
  purpose: 'Shows that gas piping holds air up to its stops, and then with the stops open, before any gas is let in.',
  systemKind: 'gas',
  plant: 'piping',
  medium: 'air, nitrogen or carbon dioxide',
  volumeFrom: 'pipes',
  roles: [
    { role: 'fine', label: 'Fine gauge for stage 2', quantity: 'pressure', needed: ({ stages }) => stages === 'both', orGauge: true },
  ],
  parameters,
  figures: [
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
    { id: 'temperature-doubt', label: 'A pipe thermometer may be off by', value: '0.5', unit: 'K', stricter: 'higher', bound: '5' },
    { id: 'barometer-doubt', label: 'A barometer may be off by', value: '0.5', unit: 'hPa', stricter: 'higher', bound: '10' },
  ],
  kit: [
    'Two gauges for stage 1 (5 or 6 psi; 15 psi for 2-psi systems) and two fine ones for stage 2',
    'Compressor, or cylinder with regulator; rig with valve and relief',
    'Pipe-clip thermometer and barometer',
    'Caps, plugs and blanks',
    'Leak-detection fluid',
    'Eye protection and gloves',
  ],
  cautions: {
    licence: 'Work on fuel gas piping only with the licence the law asks for. Local code and the maker’s instructions come first.',
    gas: 'Air, nitrogen or carbon dioxide. Never oxygen, never fuel gas. Nitrogen and carbon dioxide suffocate: ventilate.',
    energy: 'Compressed gas stores energy: raise slowly, stay clear of plugs and caps, one person at the valve.',
    'over-pressure': 'More than the lowest rating damages diaphragms and regulators that nobody will see until they fail.',
    purge: 'Air in a gas pipe makes an explosive mixture: purge and relight only as your licence allows, no ignition source, ventilate.',
  },
  evidence: ['Photograph of each gauge at start and end of its hold, beside a clock', 'Photograph of the inspector’s tag'],
  tasks: [
    { title: 'Shut, cap and connect', activeMinutes: 30, passiveMinutes: 0 },
    { title: 'Stage 1', activeMinutes: 5, passiveMinutes: 30 },
    { title: 'Stage 2', activeMinutes: 10, passiveMinutes: 30 },
    { title: 'Restore', activeMinutes: 20, passiveMinutes: 0 },
  ],
  meterLitres: () => 0,
  outOfScope,
  course,
  gaugeAdvice: () => undefined,
  example: {
    answers: {},
    pipes: '1-1/4sch40 60ft\n1sch40 45ft\n3/4sch40 80ft',
    gauge: simulatedGauge({ unit: 'psi', readability: '0.05', rangeLow: '0', rangeHigh: '6' }),
    instruments: { fine: simulatedGauge({ unit: 'psi', readability: '0.01', rangeLow: '0', rangeHigh: '2' }) },
  },
};
