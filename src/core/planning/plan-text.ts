import { expectedCourse } from '../judging/course';
import { timeText } from '../judging/exact';
import { judge } from '../judging/judge';
import type { Phase } from '../procedures/phases';
import type { Procedure } from '../procedures/procedure';
import { unitLabel } from '../quantities';
import { inSentence } from '../record/words';
import { instrumentsOf, unitOfHold } from './instruments';
import type { Plan, Planned } from './plan';

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
      return `${phase.title}: ${phase.band.low} to ${phase.band.high} ${unit}${ceiling}, ${timeText(phase.seconds)}. ${limitOf(plan, phase)}`.trim();
    }
    case 'measure':
      return `${phase.title}: ${phase.points.map(({ label }) => label).join('; ')}.`;
    case 'check':
      return `${phase.title}: ${phase.items.length} ${phase.items.length === 1 ? 'step' : 'steps'}.`;
    default:
      return `${phase.title}.`;
  }
}

function limitOf(plan: Plan, phase: Extract<Phase, { kind: 'hold' }>): string {
  const { criterion } = phase;
  const unit = unitLabel(unitOfHold(plan, phase));
  switch (criterion.kind) {
    case 'wait':
      return '';
    case 'no-rise':
      return `A rise of ${criterion.threshold} ${unit} fails it.`;
    case 'no-fall':
      return criterion.permitted === undefined
        ? `A fall of ${criterion.threshold} ${unit} or more fails it.`
        : `A fall up to ${criterion.permitted} ${unit} is permitted.`;
    case 'at-most':
      return `Never above ${criterion.limit} ${unit}${criterion.creep === undefined ? '' : `; a rise of ${criterion.creep} ${unit} is creep`}.`;
    case 'keep':
      return criterion.within === undefined ? 'The fall is noted.' : `A fall of more than ${criterion.within} ${unit} is pumped back.`;
    case 'leak-rate':
      return `Leak rate under ${criterion.bands[0]?.below} L/h for the best band.`;
    case 'dial':
      return `${criterion.threshold} turn counts as moved.`;
  }
}

/** The plan as a plain text sheet: what is on the screen's sheet, for a notebook, a mail or a terminal. Lines of 92 letters at most. */
export function planText(procedure: Procedure, { plan, volume, gaugeFindings, advice }: Planned): string {
  const course = expectedCourse(plan, judge(plan, []));
  const changed = (from: 'house rule' | 'own procedure') =>
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
    ...section('What it can see', [`A leak above ${plan.sight.litresPerHour} L/h; a smaller one may pass unseen.`, plan.sight.working]),
    ...section('Know before you start', advice),
    ...section('Cautions', Object.values(plan.cautions)),
    ...section('Kit', procedure.kit),
    ...section('Not tested', plan.notTested),
    '',
    'Local code, the maker’s instructions and licensed practice come first.',
    `Plan ${plan.hash.slice(0, 16)}`,
  ];
  return `${lines.join('\n')}\n`;
}
