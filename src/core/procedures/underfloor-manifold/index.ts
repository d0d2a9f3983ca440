import type { CheckItem } from '../../course/phases';
import { linesOf } from '../../exact/lines';
import { fromSi, good, type Problem, type Result, toSi } from '../../quantities';
import { bandUnderRating, overRating, parseComponents, seenBy, weakest } from '../../sizing/components';
import { gasIn, oneStep, storedAdvice } from '../../sizing/gas-hold';
import { waterIn } from '../../sizing/water-hold';
import { quantityIn } from '../answers';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import type { Answers, Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askQuantity } from '../questions';
import { relaxed, relaxingConclusions, relaxingStages } from '../relaxation';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Underfloor heating at its manifold (DOMAIN 5.11). */

const card = cardOf({
  prepare: 'check',
  loops: 'check',
  zero: 'zero',
  'stage-1': 'no-fall',
  'top-up': 'check',
  'stage-1-again': 'no-fall',
  'rig-1': ['dry', 'bubbles'],
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  restore: 'check',
  'make-safe': 'check',
});
const { after, checkPhase, getReady, holdPhase, makeSafeList, restoreList, soapTheRig, zeroGauge } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [
  { id: 'least', label: 'Water from', value: '4', unit: 'bar', stricter: 'higher', bound: '6' },
  { id: 'threshold', label: 'A fall counts from', value: '0.1', unit: 'bar', stricter: 'lower', bound: '0.01' },
  { id: 'water-most', label: 'Water at most', value: '6', unit: 'bar', stricter: 'lower', bound: '4' },
  { id: 'air-most', label: 'Air at most', value: '1', unit: 'bar', stricter: 'lower', bound: '0.3' },
  { id: 'settle-seconds', label: 'Pipe has relaxed when it stands for', value: '600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'relaxing-share', label: 'Pipe may relax by', value: '30', unit: '%', stricter: 'lower', bound: '2' },
  { id: 'guard-share', label: 'Guard gauge may fall by', value: '10', unit: '%', stricter: 'lower', bound: '2' },
  { id: 'hold-seconds', label: 'Hold', value: '3600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'keep-low', label: 'Kept under screed from', value: '1.5', unit: 'bar', stricter: 'higher', bound: '2' },
  { id: 'keep-high', label: 'Kept under screed to', value: '2', unit: 'bar', stricter: 'lower', bound: '1.5' },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '0.1', unit: 'bar', stricter: 'lower', bound: '0.001' },
] as const satisfies Figures;

const parameters = [
  {
    kind: 'lines',
    id: 'loops',
    label: 'Loops',
    help: 'A line each, as the manifold has them: each is filled and purged by itself.',
    usual: 'Loop 1',
    example: '1 Kitchen\n2 Hall\n3 Bath',
  },
  askChoice(
    'medium',
    'Tested with',
    [
      ['water', 'Water'],
      ['air', 'Air, since frost threatens'],
    ],
    'Air is more searching and more dangerous: only where water would freeze, and 1 bar at most.',
  ),
  askQuantity('test', 'Test pressure', 'pressure', 'bar', '5', ['4', '6'], '4 to 6 bar of water.', {
    askedFor: { answer: 'medium', is: ['water'] },
  }),
  askChoice(
    'frost',
    'Frost before it is heated',
    [
      ['no', 'Not to be expected'],
      ['yes', 'It threatens'],
    ],
    'Then the water is drained or glycol added afterwards.',
    { askedFor: { answer: 'medium', is: ['water'] } },
  ),
  {
    kind: 'components',
    id: 'components',
    label: 'Manifold and flow meters',
    help: 'A line each, with its rating: Manifold 6bar, Flow meters 6bar',
    usual: '',
  },
] as const satisfies Asked;
const asked = { parameters };
// As they sit on the manifold: 2 before 10.
const byNumber = (a: string, b: string): number => a.localeCompare(b, 'en', { numeric: true });
const isAir = (answers: Input['answers']) => answers.medium === 'air';
const testBar = (answers: Input['answers'], figure: Input['figure']): number =>
  isAir(answers) ? Number(figure('air-most')) : fromSi(quantityIn(asked, answers, 'test'), 'bar');

function course({ answers, figure, gauge, volume }: Input): Result<Course> {
  const air = isAir(answers);
  const test = testBar(answers, figure);
  const { components } = parseComponents(answers.components ?? '');
  const band = air
    ? { low: (test - 0.1).toFixed(2), high: test.toFixed(2), ceiling: figure('air-most') }
    : // At any pressure from 4 to 6 bar, and never above what the manifold and its flow meters bear.
      bandUnderRating(
        Math.min(test, Number(figure('least'))),
        Number(figure('water-most')),
        Number(figure('water-most')),
        components,
        'water',
        'bar',
        2,
      );
  const step1 = oneStep(gauge, 'bar');
  const threshold = air ? step1 : Number(step1) > Number(figure('threshold')) ? step1 : figure('threshold');
  const seconds = Number(figure('hold-seconds'));
  const loops = linesOf(answers.loops);
  const least = weakest(components, toSi(Number(band.high), 'bar'), air ? 'gas' : 'water');
  const medium = air ? 'air' : 'water';
  const loopItems: readonly CheckItem[] = loops.map((loop, index) =>
    step(`loop-${index + 1}`, air ? `Loop ${loop}: open, blown through` : `Loop ${loop}: filled and purged by itself until no air comes`),
  );

  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('told', 'Everyone on site told: nobody drills, nails or walks on pipe'),
        step('open', 'Flow meters and actuator ports open'),
        step('shade', 'Pipe out of the sun, or covered', { mayNotApply: true }),
      ],
      air ? ['air', 'pressure'] : ['pressure'],
    ),
    checkPhase({
      id: 'loops',
      title: 'Loop by loop',
      picture: 'loops',
      say: air ? 'Open the loops one by one.' : 'Fill and purge the loops one by one; the others stay shut meanwhile.',
      items: [
        ...loopItems,
        edge('isolated', 'Isolation valves at the manifold shut; the boiler’s side sees no pressure', { plugged: 'Shut' }),
        edge('ends', 'Drain and fill ports shut and capped', { plugged: 'Shut and capped' }),
      ],
    }),
    zeroGauge(gauge.readability),
    ...(air
      ? []
      : relaxingStages(card, {
          band: { low: band.low, high: band.high },
          ceiling: band.ceiling,
          seconds: Number(figure('settle-seconds')),
          threshold: step1,
          share: figure('relaxing-share'),
          when: after('zero', 'zeroed'),
          restartFrom: 'stage-1',
        })),
    ...(air
      ? []
      : [
          soapTheRig(
            'rig-1',
            'stage-1',
            'The gauge fell further than relaxing pipe. Look at the pump’s valve, the hose and the gauge’s joint.',
            ['fall'],
            'water',
          ),
        ]),
    holdPhase({
      id: 'hold',
      title: 'Hold',
      purpose: 'tightness',
      cautions: air ? ['air'] : ['pressure'],
      when: air ? after('zero', 'zeroed') : relaxed,
      say: air
        ? 'Raise slowly into the band, shut and disconnect, stand clear, and read gauge, pipe temperature and barometer.'
        : 'Read the gauge to start the hold. Sun on the pipe can move it: write it down.',
      // The hold begins at 4 bar or more, whatever the pipe has relaxed to.
      band: { low: band.low, high: band.high },
      ceiling: band.ceiling,
      seconds,
      limit: { kind: 'no-fall', threshold },
      restartFrom: 'hold',
    }),
    soapTheRig(
      'rig',
      'hold',
      `The gauge fell. ${air ? 'Soap' : 'Look at'} the pump’s valve, the hose and the gauge’s joint first, then the manifold.`,
      ['fall'],
      air ? 'bubbles' : 'water',
    ),
    restoreList(
      [
        step(
          'keep',
          `Let down to ${figure('keep-low')} to ${figure('keep-high')} bar and kept there while the screed is laid; the gauge stays on`,
          { to: figure('keep-high') },
        ),
        step('guard', 'Guard gauge read with the pipe’s temperature', { write: 'Reading and temperature', guard: true }),
        ...(answers.frost === 'yes' && !air ? [step('frost', 'Drained, or glycol added and noted')] : []),
        step('told', 'The screed layer told: a fall of the gauge is damage, and is reported at once'),
      ],
      ['pressure'],
    ),
    makeSafeList([
      step('down', 'Pressure let down before any joint is remade'),
      step('stop', 'No screed is laid: told and labelled'),
      stepIf('frost', 'Drained where frost threatens'),
    ]),
  ];
  return good(
    card.course({
      medium,
      filled: air ? 'gas' : 'water',
      unit: 'bar',
      phases,
      highest: band.high,
      limit: figure('coarsest'),
      judgedBy: 'hold',
      guard: { pipe: 'PEX', relaxingShare: figure('relaxing-share'), alarmShare: figure('guard-share') },
      sees: [
        {
          phase: 'hold',
          what: 'the loops',
          contents: air ? gasIn(volume.totalL) : waterIn(volume.totalL, 'PEX'),
          unit: 'L/h',
          alsoAssumes: ['the isolation valves at the manifold let nothing by'],
          longer: { figure: 'hold-seconds' },
        },
      ],
      boundaries: [
        { id: 'isolated', label: 'Isolation valves at the manifold', beyond: 'The boiler’s side of the manifold' },
        { id: 'ends', label: 'Fill and drain ports', beyond: 'Nothing: these are ends' },
      ],
      conclusions: [
        ...(air ? [] : relaxingConclusions),
        { when: after('rig', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
        { when: after('rig', 'dry'), verdict: 'fail', reason: 'fall', about: 'hold' },
        { when: after('hold', 'tight'), verdict: 'pass', reason: 'tight', about: 'hold' },
      ],
      derivation: [
        `${loops.length} loop${loops.length === 1 ? '' : 's'}, ${medium} at ${band.low} bar, ${Math.round(seconds / 60)} min without a fall; a fall counts from ${threshold} bar.`,
        air
          ? `Air at ${figure('air-most')} bar at most, and only because frost threatens.`
          : 'The pipe relaxes first, and is topped up once; needing it again proves nothing yet.',
        `Then ${figure('keep-low')} to ${figure('keep-high')} bar stay on while the screed is laid.`,
      ],
      notTested: ['The boiler’s side of the manifold', 'Damage done after the test: the guard gauge tells'],
      advice: [
        ...(least === undefined
          ? []
          : [
              `Weakest: ${least.name}, bears ${fromSi(least.ratingPa, 'bar').toFixed(1)} bar and sees ${fromSi(seenBy(least, toSi(Number(band.high), 'bar'), air ? 'gas' : 'water'), 'bar').toFixed(2)}.`,
            ]),
        ...(air
          ? storedAdvice(volume.totalL, band.high, 'bar', 0)
          : ['Sun or warming may raise or lower the gauge on soft pipe: no figure can be given for it.']),
      ],
    }),
  );
}

function outOfScope(answers: Input['answers'], _: unknown, figure: Input['figure']): readonly Problem[] {
  const problems: Problem[] = [];
  const over = overRating(
    parseComponents(answers.components ?? '').components,
    toSi(testBar(answers, figure), 'bar'),
    isAir(answers) ? 'gas' : 'water',
    'bar',
  );
  if (over !== undefined) problems.push(over);
  const loops = linesOf(answers.loops);
  if (loops.length > 30)
    problems.push({ code: 'loops-many', field: 'loops', message: 'A manifold of more than 30 loops is tested in parts.' });
  if (new Set(loops.map((loop) => loop.toLowerCase())).size < loops.length)
    problems.push({ code: 'loop-twice', field: 'loops', message: 'A loop stands there twice. Give each its own name.' });
  return problems;
}

export const underfloorManifold: Procedure = {
  id: 'underfloor-manifold',
  version: '1',
  title: 'Underfloor heating',
  school: 'Manifold school',
  purpose: 'Shows before the screed is laid that every loop of an underfloor manifold holds, and keeps watch while it is laid.',
  systemKinds: ['heating'],
  plant,
  medium: 'water; air only where frost threatens',
  volumeFrom: 'pipes',
  fromRegister: ({ components, rated }): Answers => {
    const loops = components.filter((name) => /^loop\b/i.test(name) && !rated.includes(name));
    return loops.length === 0
      ? {}
      : {
          loops: loops
            .map((name) => name.replace(/^loop\s*/i, ''))
            .sort(byNumber)
            .join('\n'),
        };
  },
  volumeDecides: () => false,
  presumed: ['components'] satisfies readonly IdsOf<typeof parameters>[],
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
