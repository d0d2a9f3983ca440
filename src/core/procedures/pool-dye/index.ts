import { good, type Problem, type Result } from '../../quantities';
import { noGauge } from '../../sizing/gauge';
import { parseOpenings, plugKinds, plugsFor } from '../../sizing/plugs';
import { type Asked, cardOf, type Figures, type IdsOf, type PhaseIn } from '../card';
import { step } from '../phase-shapes';
import type { Course, CourseInput, Procedure } from '../procedure';
import { askChoice, askText } from '../questions';
import { example } from './example';
import { breaches, faults } from './faults';
import { plant } from './plant';
import { sheet } from './sheet';

/** Pool and spa lines by static dye: it can find a leak, and never clears a line (DOMAIN 5.15). */

const card = cardOf({
  prepare: 'check',
  dye: ['hangs', 'drawn'],
  'make-safe': 'check',
});
const { after, getReady, look, makeSafeList } = card;
export type Names = typeof card.names;
type Input = CourseInput<IdsOf<typeof figures>, IdsOf<typeof parameters>>;

const figures = [] as const satisfies Figures;

const parameters = [
  askText('line', 'Line', 'Its name on the map: Returns, Skimmers, Main drain.', false),
  {
    kind: 'lines',
    id: 'openings',
    tapped: 'openings',
    label: 'Openings of this line',
    help: 'A line each; the first stays open for the dye: Return 1, Return 2 hook, Skimmer 1.',
    usual: '',
    example: 'Return 1\nReturn 2 hook',
  },
  askChoice(
    'lost',
    'Water is lost',
    [
      ['always', 'With the pump off too'],
      ['running', 'Only with the pump running'],
    ],
    'A leak that opens only under pressure cannot show here.',
  ),
  askChoice(
    'above',
    'The line',
    [
      ['below', 'Lies wholly below the water'],
      ['above', 'Rises above the water in places'],
    ],
    'What lies above the water cannot draw dye.',
  ),
] as const satisfies Asked;

function course({ answers }: Input): Result<Course> {
  const plugs = plugsFor(parseOpenings(answers.openings ?? '').openings);
  if (!plugs.ok) return { ok: false, problem: { ...plugs.problem, field: 'openings' } };
  const { open, closed, valves } = plugs.value;
  const phases: readonly PhaseIn<Names>[] = [
    getReady(
      [
        step('locked', 'Pump and blower locked off electrically'),
        step('level', 'Water halfway up the skimmer mouth'),
        step('still', 'Water at rest, nobody in it'),
        ...closed.map(({ name, kind }, index) => step(`plug-${index + 1}`, `${name}: ${plugKinds[kind]}`, { boundary: 'plugs' })),
        ...valves.map(({ name }, index) => step(`valve-${index + 1}`, `${name}: shut, and proved to hold`, { boundary: 'plugs' })),
        step('left-open', `${open.name} left open for the dye`),
      ],
      ['locked'],
    ),
    look(
      'dye',
      'Watch the dye',
      `Hold a thread of dye at ${open.name}, without moving the water, and watch it for a minute.`,
      [
        ['hangs', 'It hangs or drifts away'],
        ['drawn', 'It is drawn in'],
      ],
      { when: after('prepare', 'done'), picture: 'dye' },
    ),
    makeSafeList([
      step('plugs', `${closed.length} plug${closed.length === 1 ? '' : 's'} out, counted`),
      step('covers', 'Covers back on and fast'),
      step('power', 'Lock taken off, pump seen to run'),
    ]),
  ];
  return good(
    card.course({
      filled: 'water',
      unit: 'Pa',
      phases,
      highest: noGauge.rangeHigh,
      limit: noGauge.readability,
      judgedBy: 'dye',
      sees: [],
      sightSays: 'Dye shows a stream, no figure: a steady draw is seen from about a litre an hour on, less with patience.',
      boundaries:
        closed.length + valves.length > 0
          ? [{ id: 'plugs', label: 'Plugs and proved valves', beyond: 'What lies beyond the proved valves' }]
          : [],
      conclusions: [
        { when: after('dye', 'drawn'), verdict: 'fail', reason: 'dye-drawn' },
        { when: after('dye', 'hangs'), verdict: 'inconclusive', reason: 'dye-not-drawn' },
      ],
      derivation: ['Drawn in: the line leaks below the water level. Not drawn in: it is not cleared, never a pass.'],
      notTested: ['Leaks that open only under pressure', 'Everything above the water level', 'The other lines'],
      advice: ['Not drawn in is no pass: the pressure test decides.'],
    }),
  );
}

function outOfScope(answers: Input['answers']): readonly Problem[] {
  const problems: Problem[] = [];
  if (answers.lost === 'running')
    problems.push({
      code: 'dye-pressure',
      field: 'lost',
      message: 'Water that is lost only with the pump running leaves under pressure: dye at rest cannot show it. Use the pressure test.',
    });
  if (answers.above === 'above')
    problems.push({ code: 'dye-above', field: 'above', message: 'What lies above the water cannot draw dye. Use the pressure test.' });
  for (const { code, message } of parseOpenings(answers.openings ?? '').problems) problems.push({ code, field: 'openings', message });
  return problems;
}

export const poolDye: Procedure = {
  id: 'pool-dye-static',
  version: '1',
  title: 'Pool and spa lines, dye',
  school: 'Dye at rest, pump off',
  purpose: 'Looks whether a line draws in dye at rest. It can find a leak below the water level, and never clears a line.',
  systemKinds: ['pool'],
  plant,
  medium: 'pool water at rest, with dye',
  volumeFrom: 'answers',
  // The map of a line belongs to the pool: whichever test drew it, the next one has it.
  fromRegister: ({ name, components, last }) => ({
    line: last.line ?? name,
    ...(last.openings !== undefined ? { openings: last.openings } : components.length === 0 ? {} : { openings: components.join('\n') }),
  }),
  askedEachTime: ['lost'] satisfies readonly IdsOf<typeof parameters>[],
  noGauge: true,
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
