import { instrumentsOf, unitOfHold, weatherOf } from '../course/instruments';
import type { Phase } from '../course/phases';
import { sightSentences } from '../course/sight-words';
import { expectedCourse } from '../judging/course';
import { judge } from '../judging/judge';
import { holdRule, measureRule, timeText } from '../limits';
import type { Plan, Planned } from '../planning/plan';
import { adviceText, type Procedure } from '../procedures/procedure';
import { unitLabel } from '../quantities';
import { inSentence } from '../record/words';

const width = 92;

/** Wraps a paragraph at spaces; later lines are indented by two. */
function wrapped(text: string, first: string): readonly string[] {
  const lines: string[] = [];
  let line = first;
  for (const word of text.split(' ')) {
    if (line.length > 2 && line.length + word.length + 1 > width) {
      lines.push(line);
      line = `  ${word}`;
    } else line = line === '' || line.endsWith(' ') ? `${line}${word}` : `${line} ${word}`;
  }
  return [...lines, line];
}

const section = (title: string, entries: readonly string[]): readonly string[] =>
  entries.length === 0 ? [] : ['', title.toUpperCase(), ...entries.flatMap((entry) => wrapped(entry, '- '))];

function phaseLine(plan: Plan, phase: Phase): string {
  switch (phase.kind) {
    case 'hold': {
      const unit = unitLabel(unitOfHold(plan, phase));
      const ceiling = phase.ceiling === undefined ? '' : `, never above ${phase.ceiling} ${unit}`;
      return `${phase.title}: ${phase.band.low} to ${phase.band.high} ${unit}${ceiling}, ${timeText(phase.seconds)}. ${holdRule(phase.limit, unit)}`;
    }
    case 'measure':
      return `${phase.title}: ${phase.points.map(({ label }) => label).join('; ')}. ${measureRule(phase.limit)}`;
    case 'check':
      return `${phase.title}: ${phase.items.length} ${phase.items.length === 1 ? 'step' : 'steps'}.`;
    default:
      return `${phase.title}.`;
  }
}

/** What it can see, part by part, for a list. */
const sightLines = ({ sight, sightSays }: Plan): readonly string[] => [
  ...sightSentences(sight, sightSays),
  ...sight.flatMap(({ working }) => working),
];

/** The plan as a plain text sheet: what is on the screen's sheet, for a notebook, a mail or a terminal. Lines of 92 letters at most. */
export function planText(procedure: Procedure, { plan, volume, gaugeFindings, advice }: Planned): string {
  const course = expectedCourse(plan, judge(plan, []));
  const changed = (from: 'house rule' | 'own procedure' | 'this job') =>
    plan.figures
      .filter(({ source }) => source === from)
      .map(
        ({ label, value, unit, procedureValue, reference = '' }) =>
          `${label}: ${value} ${unit} (procedure ${procedureValue}; ${reference})`,
      );
  const estimate =
    plan.volume.lowest === undefined ? '' : `, estimated between ${plan.volume.lowest} and ${plan.volume.litres} L; planned for the larger`;
  const lines = [
    ...wrapped(`${plan.procedure.title}, ${inSentence(plan.procedure.school)}, version ${plan.procedure.version}`, ''),
    ...wrapped(procedure.purpose, ''),
    ...section(
      'Answers',
      plan.answerLabels.map(({ label, value }) => `${label}: ${value.split('\n').join('; ')}`),
    ),
    ...section(
      'Volume',
      Number(plan.volume.litres) > 0
        ? [`${plan.volume.litres} L${estimate} (${volume.largestNominalMm > 0 ? plan.pipes.join('; ') : 'as stated'})`]
        : [],
    ),
    ...section(
      'Instruments',
      instrumentsOf(plan).map(
        ({ role, instrument }) =>
          `${role === undefined ? 'Gauge' : (procedure.roles.find((one) => one.role === role)?.label ?? role)}: ${instrument.name}${instrument.simulated ? ' (SIMULATED)' : ''}, ${instrument.rangeLow} to ${instrument.rangeHigh} ${unitLabel(instrument.unit)} in steps of ${instrument.readability}`,
      ),
    ),
    ...section(
      'Weather, read at both ends',
      weatherOf(plan).map(
        ({ label, instrument }) =>
          `${label}: ${instrument.name}${instrument.simulated ? ' (SIMULATED)' : ''}, in steps of ${instrument.readability} ${unitLabel(instrument.unit)}`,
      ),
    ),
    ...section(
      'This cannot give a pass',
      gaugeFindings.map(({ message }) => message),
    ),
    ...section(
      'Course, if all goes well',
      course.map((phase) => phaseLine(plan, phase)),
    ),
    ...section('Limit, and where it comes from', plan.derivation),
    ...section('House rules', changed('house rule')),
    ...section('Own figures', changed('own procedure')),
    ...section('Stricter for this job', changed('this job')),
    ...section('What it can see', sightLines(plan)),
    ...section('Know before you start', advice.map(adviceText)),
    ...section('Cautions', Object.values(plan.cautions)),
    ...section('Kit', procedure.kit),
    ...section('Not tested', plan.notTested),
    '',
    'Local code, the maker’s instructions and licensed practice come first.',
    `Plan ${plan.hash.slice(0, 16)}`,
  ];
  return `${lines.join('\n')}\n`;
}
