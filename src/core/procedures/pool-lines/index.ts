import type { CheckItem } from '../../course/phases';
import { endThrust, frictionPlugN } from '../../physics/end-thrust';
import { fromSi, good, type Problem, type Result, toSi } from '../../quantities';
import { oneStep, thrustWords } from '../../sizing/gas-hold';
import { lineGroups, parseTrials } from '../../sizing/line-groups';
import { boreOf, litresPerMetre } from '../../sizing/pipe-volume';
import { parseOpenings, plugKinds, plugsFor } from '../../sizing/plugs';
import { waterIn } from '../../sizing/water-hold';
import { quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn, type WhenIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity, askText } from '../questions';
import { riseItems, riseSteps } from '../stepped-rise';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Pool and spa lines under pressure (DOMAIN 5.14). */

const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  rise: 'check',
  hold: 'no-fall',
  'check-1': ['reset', 'passing'],
  'hold-2': 'no-fall',
  'check-2': ['reset', 'passing'],
  'hold-3': 'no-fall',
  restore: 'check',
  'make-safe': 'check',
});
const { after, checkPhase, getReady, holdPhase, look, makeSafeList, restoreList, zeroGauge } = card;
export type Names = typeof card.names;
type Hold = 'hold' | 'hold-2' | 'hold-3';
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'small-least', label: 'Pipe to 2 in, at least', value: '10', unit: 'psi', stricter: 'higher', bound: '15' },
  { id: 'small-most', label: 'Pipe to 2 in, at most', value: '20', unit: 'psi', stricter: 'lower', bound: '15', loosest: '25' },
  { id: 'large-least', label: 'Larger pipe, at least', value: '5', unit: 'psi', stricter: 'higher', bound: '10' },
  { id: 'large-most', label: 'Larger pipe, at most', value: '15', unit: 'psi', stricter: 'lower', bound: '10' },
  { id: 'rise-step', label: 'Steps of the rise', value: '5', unit: 'psi', stricter: 'lower', bound: '1' },
  { id: 'pause-seconds', label: 'Pause at each step', value: '10', unit: 's', stricter: 'higher', bound: '600' },
  { id: 'hold-seconds', label: 'Hold', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'air-most', label: 'Air to locate at most', value: '10', unit: 'psi', stricter: 'lower', bound: '3' },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '0.5', unit: 'psi', stricter: 'lower', bound: '0.01' },
] as const satisfies Figures;

/** Ceilings by the pipe's size, psi: the lower of two schools' is taken (up to 2 in 15–25 and 15–20; larger 5–15). */
const sizes = ['1-1/2', '2', '2-1/2', '3', '4'] as const;
const isSmall = (answers: Input['answers']) => answers.size === '1-1/2' || answers.size === '2';

const parameters = [
  askText('line', 'Line', 'Its name on the map: Returns, Skimmers, Main drain.', false),
  {
    kind: 'lines',
    id: 'trials',
    tapped: 'trials',
    label: 'Trials that mapped the lines',
    help: 'A line each: where the air went in, or the diverter was turned, and what answered.',
    usual: '',
    example: 'Skimmer 1: Skimmer 2\nReturn 1: Return 2, Return 3',
    optional: true,
  },
  {
    kind: 'lines',
    id: 'openings',
    tapped: 'openings',
    label: 'Openings of this line',
    help: 'A line each, the equipment end counted: Return 1, Return 2 hook, Skimmer 1, Main drain inflatable. A proved valve: Spa valve.',
    usual: '',
    example: 'Equipment end\nReturn 1\nReturn 2 hook',
  },
  askChoice(
    'size',
    'Pipe',
    sizes.map((size) => [size, `${size} in`] as const),
    'The largest of the line; larger pipe sees less pressure.',
  ),
  askQuantity('length', 'Length of the line', 'length', 'ft', '60', ['3', '3000'], 'About; it sets what the hold can see.'),
  askQuantity(
    'working',
    'Working pressure',
    'pressure',
    'psi',
    '20',
    ['3', '60'],
    'The filter’s gauge with the pump running, clean: the test never goes above it.',
  ),
  askChoice(
    'medium',
    'Tested with',
    [
      ['water', 'Water'],
      ['air', 'Air'],
    ],
    'Water shows at once and stores little. Air is for locating alone.',
  ),
  askChoice(
    'cleared',
    'Fittings, light, skimmer and drain',
    [
      ['yes', 'Cleared before'],
      ['no', 'Not looked at yet'],
    ],
    'The pressure test comes last, when they have been cleared.',
  ),
] as const satisfies Asked;
const asked = { parameters };
const workingPsi = (answers: Input['answers']) => fromSi(quantityIn(asked, answers, 'working'), 'psi');

function pressures(answers: Input['answers'], figure: Input['figure']): { readonly low: number; readonly high: number } {
  const [least, ceiling] = isSmall(answers)
    ? [Number(figure('small-least')), Number(figure('small-most'))]
    : [Number(figure('large-least')), Number(figure('large-most'))];
  const high = Math.min(ceiling, Math.floor(workingPsi(answers) * 10 + 1e-6) / 10);
  return { low: Math.max(least, high - 5), high };
}

function course({ answers, figure, gauge }: Input): Result<Course> {
  const { low, high } = pressures(answers, figure);
  const threshold = oneStep(gauge, 'psi');
  const seconds = Number(figure('hold-seconds'));
  const plugs = plugsFor(parseOpenings(answers.openings ?? '').openings);
  if (!plugs.ok) return { ok: false, problem: { ...plugs.problem, field: 'openings' } };
  const { open, closed, valves } = plugs.value;
  const bore = boreOf('sch40', answers.size);
  if (!bore.ok) return bore;
  const litres = Math.max(0.5, litresPerMetre(bore.value.boreMm) * quantityIn(asked, answers, 'length'));
  const target = Math.round((low + (high - low) / 2) * 10) / 10;
  const steps = riseSteps({ step: Number(figure('rise-step')), target, pauseSeconds: Number(figure('pause-seconds')), decimals: 1 });
  if (!steps.ok) return steps;
  const thrust = endThrust(toSi(high, 'psi'), bore.value.boreMm / 1000);
  const groups = lineGroups(parseTrials(answers.trials ?? '').trials);
  const band = { low: String(low), high: String(high) };
  const plugItems: readonly CheckItem[] = [
    step('open-plug', `Open plug with hose and gauge: ${open.name} (${plugKinds[open.kind]})`),
    ...closed.map(({ name, kind }, index) => edge(`plug-${index + 1}`, `${name}: ${plugKinds[kind]}`)),
    ...valves.map(({ name }, index) => edge(`valve-${index + 1}`, `${name}: shut, and proved to hold`, { plugged: 'Shut' })),
  ];
  const hold = (id: Hold, title: string, when: WhenIn<Names>) =>
    holdPhase({
      id,
      title,
      purpose: 'tightness',
      cautions: ['plugs'],
      when,
      say: 'Water shut off, nobody in the water: read the gauge. Touch nothing until it is due.',
      band,
      ceiling: String(high),
      seconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: id,
    });
  const between = (id: 'check-1' | 'check-2', fallen: Hold) =>
    look(
      id,
      'Check plugs and fittings',
      'It fell. Let it down slowly, check every plug, the hose and the gauge’s joint, set them anew, raise again in steps.',
      [
        ['reset', 'Checked, set anew, raised again'],
        ['passing', 'A plug passes and cannot be made tight'],
      ],
      { when: after(fallen, 'fall'), cautions: ['plugs'] },
    );

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('mapped', 'The outlets of this line are known; the others stay open'),
        step('locked', 'Pump and blower locked off electrically before anyone dives or plugs'),
        stepIf('blower', 'Blower line sealed first'),
        step('order', 'Equipment end opened, air let out of the line while it fills'),
        ...plugItems,
      ],
      ['locked', 'plugs'],
      undefined,
      'line map',
    ),
    zeroGauge(gauge.readability),
    checkPhase({
      id: 'rise',
      title: 'Raise slowly',
      picture: 'line map',
      cautions: ['plugs'],
      when: after('zero', 'zeroed'),
      say: 'Diver clear. Raise in steps with a pause at each: a fast rise fires plugs.',
      items: riseItems(steps.value, 'psi', { prefix: 'rise', atFirst: 'plugs sit, nothing creeps out', atEach: 'nothing creeps out' }),
    }),
    hold('hold', 'Hold', after('rise', 'done')),
    between('check-1', 'hold'),
    hold('hold-2', 'Second hold', after('check-1', 'reset')),
    between('check-2', 'hold-2'),
    hold('hold-3', 'Third hold', after('check-2', 'reset')),
    restoreList(
      [
        step('down', 'Pressure let down slowly at the gauge, nobody over a plug; none pulled under pressure'),
        step('plugs', `${closed.length + 1} plugs out, counted`),
        step('lids', 'Drain covers, fittings and lids back on and fast'),
        step('power', 'Lock taken off; pump primed and seen to run'),
      ],
      ['plugs', 'locked'],
    ),
    makeSafeList(
      [
        step('down', 'Pressure let down slowly; none pulled under pressure'),
        step('plugs', `${closed.length + 1} plugs out, counted`),
        step('lids', 'Drain covers back on and fast'),
        step('power', 'Lock taken off, or left on and labelled'),
      ],
      ['plugs'],
    ),
  ];

  return good(
    card.course({
      filled: 'water',
      medium: 'water',
      unit: 'psi',
      phases,
      highest: String(high),
      limit: figure('coarsest'),
      judgedBy: 'hold',
      sees: [
        {
          phase: 'hold',
          orBy: ['hold-2', 'hold-3'],
          what: 'the line',
          contents: waterIn(litres, 'PVC'),
          unit: 'L/h',
          alsoAssumes: ['the plugs hold'],
          longer: { figure: 'hold-seconds' },
        },
      ],
      boundaries: [
        ...closed.map(({ name }, index) => ({
          id: `plug-${index + 1}`,
          label: `Plug at ${name}`,
          beyond: 'Nothing: this is an end',
          inside: true as const,
        })),
        ...valves.map(({ name }, index) => ({ id: `valve-${index + 1}`, label: `Valve at ${name}`, beyond: `What lies beyond ${name}` })),
      ],
      conclusions: [
        { when: [...after('check-1', 'passing'), ...after('check-2', 'passing')], verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: after('hold', 'tight'), verdict: 'pass', reason: 'tight', about: 'hold' },
        { when: after('hold-2', 'tight'), verdict: 'pass', reason: 'tight', about: 'hold-2' },
        { when: after('hold-3', 'tight'), verdict: 'pass', reason: 'tight', about: 'hold-3' },
        { when: after('hold-3', 'fall'), verdict: 'fail', reason: 'falls-thrice', about: 'hold-3' },
      ],
      derivation: [
        `${answers.line}: ${closed.length + valves.length + 1} openings, so ${closed.length} closed plug${closed.length === 1 ? '' : 's'} and 1 open${valves.length === 0 ? '' : `; ${valves.length} proved valve${valves.length === 1 ? '' : 's'}`}.`,
        `Water at ${low} to ${high} psi: the lower of two schools’ ceilings for ${answers.size} in pipe, and never above the working pressure of ${workingPsi(answers)} psi.`,
        `${Math.round(seconds / 60)} min, the longer of two schools’ times. It falls three times, plugs checked between, before the line is said to leak.`,
      ],
      notTested: ['Everything on the other lines', 'The shell, light, skimmer throats and drains themselves'],
      advice: [
        ...(thrust.ok ? [thrustWords(thrust.value, bore.value.boreMm, 'psi')] : []),
        ...(thrust.ok && thrust.value > frictionPlugN
          ? ['Stay clear of every plug while it is raised and held; the diver is out of the water.']
          : []),
        ...(groups.length > 0
          ? [
              `The trials give ${groups.length} line${groups.length === 1 ? '' : 's'}: ${groups.map((group) => group.join(' + ')).join('; ')}.`,
              'Map at a lower pressure each time.',
            ]
          : []),
        `To locate: air at ${figure('air-most')} psi at most, and listen along the route.`,
      ],
    }),
  );
}

function outOfScope(answers: Input['answers'], _: unknown, figure: Input['figure']): readonly Problem[] {
  const problems: Problem[] = [];
  const refused = (code: string, field: string, message: string) => problems.push({ code, field, message });
  if (answers.medium === 'air')
    refused(
      'medium-air',
      'medium',
      `Air stores energy and fires plugs: it is for locating alone, at ${figure('air-most')} psi at most. Judge with water.`,
    );
  if (answers.cleared === 'no')
    refused('not-cleared', 'cleared', 'The pressure test comes last. Look at fittings, light, skimmer and drain first, with dye.');
  const least = Number(figure(isSmall(answers) ? 'small-least' : 'large-least'));
  if (workingPsi(answers) < least)
    refused(
      'working-low',
      'working',
      `The working pressure is under the ${least} psi that this pipe needs to show anything, and the test may not go above it. Use static dye instead, or ask the pool’s builder for the pipe’s rating.`,
    );
  for (const { code, message } of parseTrials(answers.trials ?? '').problems) refused(code, 'trials', message);
  const { openings, problems: wrong } = parseOpenings(answers.openings ?? '');
  for (const { code, message } of wrong) refused(code, 'openings', message);
  const groups = lineGroups(parseTrials(answers.trials ?? '').trials);
  const home = groups.find((group) => openings.some(({ name }) => group.some((one) => name.toLowerCase().startsWith(one.toLowerCase()))));
  const missing = (home ?? []).filter((one) => !openings.some(({ name }) => name.toLowerCase().startsWith(one.toLowerCase())));
  if (missing.length > 0)
    refused(
      'openings-missing',
      'openings',
      `By the trials ${missing.join(' and ')} hang${missing.length === 1 ? 's' : ''} on this line too: add ${missing.length === 1 ? 'it' : 'them'}, or the water runs out there.`,
    );
  return problems;
}

export const poolLines: Procedure = {
  id: 'pool-lines-pressure',
  version: '1',
  title: 'Pool and spa lines, pressure',
  school: 'Plug school',
  purpose: 'Shows line by line whether the buried pipes of a pool or spa hold water under pressure.',
  systemKinds: ['pool'],
  plant,
  medium: 'water; air only to locate',
  volumeFrom: 'answers',
  // The map belongs to the pool: whichever test of whichever line drew it, the next one has it.
  fromRegister: ({ name, components, last, beside }) => ({
    line: last.line ?? name,
    ...((last.trials ?? '') === '' && beside.trials !== undefined ? { trials: beside.trials } : {}),
    ...(last.openings !== undefined ? { openings: last.openings } : components.length === 0 ? {} : { openings: components.join('\n') }),
  }),
  presumed: ['trials', 'medium'] satisfies readonly IdsOf<typeof parameters>[],
  askedEachTime: ['cleared'] satisfies readonly IdsOf<typeof parameters>[],
  roles: [],
  parameters,
  figures,
  carriedOnce: ['plugs'],
  ...sheet,
  outOfScope,
  course,
  phases: card.names,
  example,
  faults,
  breaches,
};
