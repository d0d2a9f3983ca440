import type { CheckItem } from '../../course/phases';
import { good, type Result } from '../../quantities/result';
import { gasIn } from '../../sizing/gas-hold';
import { type Gauge, gaugeClass } from '../../sizing/gauge';
import type { IdsOf, PhaseIn, WhenIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, Procedure } from '../procedure';
import { example } from './example';
import { breaches, faults } from './faults';
import { isPipeworkOnly, meterOf, permitted } from './meters';
import { card, type Names } from './names';
import { plant } from './plant';
import { figures, type Input, outOfScope, parameters } from './questions';
import { sheet } from './sheet';
import { plug, supplyEnd } from './supply-end';

/** Domestic low-pressure natural gas, millibar school (DOMAIN 5.1). */

const { after, checkPhase, holdPhase, observePhase, on, soapTheRig, zeroPhase } = card;
type LetBy = 'let-by' | 'let-by-again' | 'let-by-pipework';
type Settle = 'settle' | 'settle-pipework';

const prepareItems: readonly CheckItem[] = [
  step('voltage', 'Voltage indicator proved, used on the metalwork, proved again'),
  step('told', 'Occupants told: no gas is to be used, and nobody can light anything until you say so'),
  step('no-smell', 'No smell of gas now. If you smell gas, use “Smell of gas” instead'),
  stepIf('appliances-off', 'Appliances off, pilots out, cooker lids up'),
  stepIf('valves-open', 'Appliance isolating valves open'),
  edge('open-ends', 'Every outlet without an appliance is plugged or capped', { mayNotApply: true }),
  step('gauge-side', 'Valve shut, test nipple out; the gauge goes on the installation side of the valve'),
];

const pipeworkOnlyItems: readonly CheckItem[] = [
  edge('appliance-valves', 'Appliances disconnected and capped, or their isolating valves shut', { plant: 'isolate' }),
];

function thresholdFor(gauge: Gauge, figure: Input['figure']): string {
  switch (gaugeClass(gauge)) {
    case 'liquid':
      return figure('perceptible-liquid');
    case 'digital-two-decimals':
      return figure('perceptible-two-decimals');
    case 'digital-one-decimal':
    case 'other':
      return figure('perceptible-one-decimal');
  }
}

const rigCheck = (id: 'rig' | 'rig-pipework', after: 'hold' | 'hold-pipework') =>
  soapTheRig(
    id,
    after,
    'The gauge fell. Before this is charged to the system, put leak-detection fluid on the hose, the tee and the test nipple.',
  );

function course({ answers, figure, gauge, volume }: Input): Result<Course> {
  const threshold = thresholdFor(gauge, figure);
  const { drop, why } = permitted(answers, figure);
  const end = supplyEnd(answers);
  const letByBand = { low: figure('let-by-low'), high: figure('let-by-high') };
  const testBand = { low: figure('test-low'), high: figure('test-high') };
  const settleSeconds = Number(figure('settle-seconds'));
  const holdSeconds = Number(figure('hold-seconds'));

  const letBy = (id: LetBy, title: string, when: WhenIn<Names>, say: string) =>
    holdPhase({
      id,
      purpose: 'let-by',
      title,
      say,
      when,
      band: letByBand,
      seconds: Number(figure('let-by-seconds')),
      limit: { kind: 'no-rise', threshold },
      restartFrom: id,
    });
  const settle = (id: Settle, { when, say }: (typeof end)['settle']) =>
    holdPhase({
      id,
      purpose: 'settle',
      title: 'Stabilise',
      say,
      when,
      band: testBand,
      seconds: settleSeconds,
      limit: { kind: 'wait' },
      restartFrom: id,
    });
  const hold = (
    id: 'hold' | 'hold-pipework',
    title: string,
    settledBy: Settle,
    afterRise: 'let-by' | 'reopen' | undefined,
    permittedDrop: string | undefined,
    valve: readonly LetBy[],
  ) =>
    holdPhase({
      id,
      purpose: 'tightness',
      title,
      band: testBand,
      seconds: holdSeconds,
      restartFrom: settledBy,
      // A rise reopens the let-by, which may have hidden a leak.
      afterRise,
      say: 'Read the gauge to start the hold. Touch nothing until it is due.',
      when: after(settledBy, 'settled'),
      limit: permittedDrop === undefined ? { kind: 'no-fall', threshold } : { kind: 'no-fall', threshold, permitted: permittedDrop },
      valve,
    });

  const phases: readonly PhaseIn<Names>[] = [
    checkPhase({
      id: 'prepare',
      title: 'Get ready',
      say: 'Go through the list before anything is connected.',
      cautions: ['licence', 'ignition', ...end.cautions],
      items: [
        ...(isPipeworkOnly(answers) ? [...prepareItems.filter((item) => item.id !== 'valves-open'), ...pipeworkOnlyItems] : prepareItems),
        ...end.prepare,
      ],
    }),
    zeroPhase({
      id: 'zero',
      title: 'Zero the gauge',
      say: 'Gauge off the hose, level, zeroed: read it. It must show zero.',
      below: gauge.readability,
    }),
    checkPhase({
      id: 'reopen',
      title: 'Reopen the appliances',
      cautions: ['bleed'],
      say: 'The appliances were isolated in an earlier round. The hold that comes judges the installation with them: open them again.',
      when: [[{ phase: 'isolate', begunBefore: true }]],
      items: [
        step('valves-reopened', 'Appliance isolating valves open again; what was capped is connected; appliances still off', {
          plant: 'reconnect',
        }),
      ],
    }),
    letBy('let-by', 'Let-by', [], 'Hose on, its joint soaped. Raise into the band, shut the valve, and read the gauge. It must not rise.'),
    observePhase({
      id: 'let-by-seat',
      title: 'Look at the valve’s seat',
      when: after('let-by', 'rise'),
      say: 'The gauge rose: gas is passing the valve. Bond across first, open the outlet, and put leak-detection fluid on the valve’s seat.',
      cautions: ['bond', 'bleed'],
      options: [
        { id: 'bubbles', label: 'Bubbles: the valve lets by', hoped: false },
        { id: 'dry', label: 'No bubbles', hoped: true },
      ],
    }),
    checkPhase({
      id: 'seat-remade',
      title: 'Remake the union',
      cautions: ['bond'],
      say: 'Whatever the look showed: close what was opened before anything else.',
      when: after('let-by-seat', 'bubbles', 'dry'),
      items: [
        step('union', 'Union remade'),
        step('union-fluid', 'Leak-detection fluid on it shows no bubbles'),
        step('bond-off', 'Continuity bond off, last'),
      ],
    }),
    letBy(
      'let-by-again',
      'Let-by, repeated',
      [[on('let-by-seat', 'dry'), on('seat-remade', 'done')]],
      'The seat showed no bubbles. Repeat the let-by test once; a second rise counts as let-by.',
    ),
    settle('settle', end.settle),
    hold(
      'hold',
      'Hold',
      'settle',
      end.afterRise,
      drop,
      end.watches.filter((watch) => watch !== 'let-by-pipework'),
    ),
    rigCheck('rig', 'hold'),
    checkPhase({
      id: 'isolate',
      title: 'Isolate the appliances',
      cautions: ['bleed'],
      say: 'The fall is within the permitted drop. That is not yet a pass: isolate the appliances and test the pipework alone.',
      when: after('hold', 'permitted'),
      items: [
        step('appliance-valves', 'Every appliance isolating valve shut, or the appliance disconnected and capped', { plant: 'isolate' }),
      ],
    }),
    // A let-by that fell proved no valve of the pipework that is left: it is done again first (DOMAIN 4.21).
    letBy(
      'let-by-pipework',
      'Let-by, pipework alone',
      [
        [on('isolate', 'done'), on('let-by', 'fall')],
        [on('isolate', 'done'), on('let-by-again', 'fall')],
      ],
      'The gauge fell during the let-by, so the valve is not proved yet. With the appliances isolated, raise into the band, shut the valve, and read the gauge.',
    ),
    settle('settle-pipework', end.settlePipework),
    hold('hold-pipework', 'Hold, pipework alone', 'settle-pipework', 'reopen', undefined, end.watches),
    rigCheck('rig-pipework', 'hold-pipework'),
    checkPhase({
      id: 'let-by-report',
      title: 'Report the let-by',
      cautions: ['bond'],
      say: 'The valve lets by. No tightness test until it is cured: report it to the gas emergency provider.',
      when: [[on('let-by-seat', 'bubbles')], [on('let-by-again', 'rise')]],
      items: [
        step('reported', 'Gas emergency provider called, at the emergency number; it is theirs to cure', { write: 'Report reference' }),
        step('watched', 'Ventilated, no source of ignition; not left alone until they have come'),
      ],
    }),
    checkPhase({
      id: 'smell-response',
      title: 'Smell of gas',
      afterStop: true,
      cautions: ['smell'],
      say: 'Stop. Ventilate, no switches or flames, get people out, and call the emergency number.',
      when: [[{ signal: 'smell', seen: true }]],
      items: [
        stepIf('shut', 'Supply shut, doors and windows open, nobody using switches or flames'),
        stepIf('out', 'People out of the building'),
        step('called', 'Emergency number called from outside', { write: 'Report reference' }),
      ],
    }),
    checkPhase({
      id: 'restore',
      title: 'Restore the supply',
      closing: true,
      afterStop: true,
      cautions: ['purge'],
      say: 'Put everything back. The test stays open until this list is done.',
      when: [[{ conclusion: 'pass' }]],
      items: [
        step('bleed', 'Pressure let down and the gauge removed'),
        step('nipple', 'Test nipple refitted'),
        ...end.rejoin,
        step('nipple-fluid', 'Supply reopened; leak-detection fluid on the nipple shows no bubbles'),
        ...end.rejoined,
        stepIf('purge', 'Purged, every appliance relit and seen to burn well'),
        step('safe', 'Left safe; occupants told that gas may be used'),
      ],
    }),
    checkPhase({
      id: 'make-safe',
      title: 'Leave it safe',
      closing: true,
      afterStop: true,
      say: 'This test proved no tightness. Leave the installation safe; the test stays open until this list is done.',
      when: [[{ conclusion: 'other' }]],
      items: [
        stepIf('bleed', 'Gauge removed, test nipple refitted; leak-detection fluid on it shows no bubbles'),
        ...end.leave,
        stepIf('shut', 'Gas shut off where a valve holds, and labelled, so that nobody uses it; a valve that lets by holds nothing'),
        step('safe', 'Occupants told what was found and that no gas may be used'),
      ],
    }),
  ];

  const notTested = [
    'The supply upstream of the emergency control valve',
    isPipeworkOnly(answers)
      ? 'The appliances and everything beyond their isolating valves'
      : 'Appliances downstream of their own closed controls',
  ];

  const seen = {
    phase: 'hold',
    contents: gasIn(volume.totalL),
    unit: 'L/h',
    longer: { figure: 'hold-seconds' },
    longerLetBy: { figure: 'let-by-seconds' },
    plug,
  } as const;

  return good(
    card.course({
      filled: 'gas',
      unit: 'mbar',
      medium: answers['supply-end'] === 'parted' ? 'air' : 'natural gas at working pressure',
      phases: phases.filter(({ id }) => !end.without.has(id)),
      highest: testBand.high,
      limit: threshold,
      judgedBy: 'hold',
      sees: [
        { ...seen, orBy: ['hold-pipework'], what: drop === undefined ? 'the installation' : 'the pipework' },
        ...(drop === undefined ? [] : [{ ...seen, what: 'the appliances, where a drop is permitted', permitted: true as const }]),
      ],
      boundaries: [
        { ...end.boundary, beyond: notTested[0] },
        { id: 'open-ends', label: 'Plugs and caps on outlets without an appliance', beyond: 'Nothing: these are ends' },
        ...(isPipeworkOnly(answers) ? [{ id: 'appliance-valves', label: 'Appliance isolating valves or caps', beyond: notTested[1] }] : []),
      ],
      conclusions: [
        ...end.conclusions,
        {
          when: [[on('rig', 'bubbles')], [on('rig-pipework', 'bubbles')]],
          verdict: 'inconclusive',
          reason: 'rig-leaks',
        },
        {
          when: after('rig', 'dry'),
          verdict: 'fail',
          reason: drop === undefined ? 'fall' : 'fall-over-permitted',
          about: 'hold',
          // Pipes or an appliance? With the appliances isolated the next attempt tells.
          offer: isPipeworkOnly(answers) ? undefined : { label: 'Test the pipework alone', answers: { appliances: 'pipework only' } },
        },
        { when: after('rig-pipework', 'dry'), verdict: 'fail', reason: 'pipework-fall', about: 'hold-pipework' },
        { when: after('hold', 'tight'), verdict: 'pass', reason: 'tight', about: 'hold' },
        {
          when: [[on('hold', 'permitted'), on('hold-pipework', 'tight')]],
          verdict: 'pass with permitted drop',
          reason: 'permitted-drop',
          about: 'hold',
        },
      ],
      derivation: [why, `A movement of ${threshold} mbar or more can be perceived on this gauge; a movement below it passes.`],
      notTested,
    }),
  );
}

export const domesticGasMillibar: Procedure = {
  id: 'domestic-gas-millibar',
  version: '1',
  title: 'Domestic low-pressure gas',
  school: 'Millibar school',
  purpose:
    'Shows that a domestic natural-gas installation after the meter regulator holds its pressure, once the supply valve is proved not to let by.',
  systemKinds: ['gas'],
  plant,
  volumeFrom: 'pipes',
  presumed: ['supply-end'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['smell'] satisfies readonly IdsOf<typeof parameters>[],
  fromPipes: ({ largestNominalMm }) => ({ pipe: largestNominalMm <= 28 ? '<=28' : largestNominalMm <= 35 ? '>28-35' : '>35' }),
  roles: [],
  phases: card.names,
  example,
  faults,
  breaches,
  medium: 'natural gas at working pressure, or air',
  parameters,
  figures,
  ...sheet,
  meterLitres: (answers) => meterOf(answers).litres,
  outOfScope,
  course,
  gaugeAdvice: (gauge) =>
    gaugeClass(gauge) === 'digital-one-decimal'
      ? 'A one-decimal gauge is the coarser choice here: a two-decimal or liquid gauge shows more.'
      : undefined,
};
