import { instrumentOf, type Phase, unitOfHold } from '../course';
import { heldSoFar, type RunEvent, said, spanOf } from '../judging';
import { datedIn, type EventOf, type EventType } from '../judging/events';
import { holdRule, measureRule, roomOfHold, roomOfMeasure, timeText } from '../limits';
import type { Plan } from '../planning';
import { unitLabel } from '../quantities';
import { type Attempt, nameOf, type PaperLocale, type TestRecord, verdictWords } from '../record';
import { type Frame, type Judged, judgementOf, offsetOf, otherPictures, spanOfAttempt } from './answer';
import { type Block, column, heading, say, table } from './blocks';
import { hourText, spanText } from './times';

/** What one phase came to, in the unit of its own instrument; of one that was not read to its end, how it stood. */
function phaseRow(plan: Plan, phase: Phase, state: ReturnType<typeof judgementOf>['phases'][number]): string | undefined {
  const came = 'came' in state ? state.came : undefined;
  if (phase.kind === 'hold') {
    if (came?.of === 'not-reached') return 'the pressure was not reached';
    const held = heldSoFar(state);
    if (held === undefined) return undefined;
    if (came?.of === 'hold' && came.end !== undefined) return roomOfHold(phase.limit).reports(came.data);
    const unit = unitLabel(instrumentOf(plan, phase.instrument).unit);
    return came?.of === 'hold' && phase.limit.kind === 'wait'
      ? `from ${came.start} ${unit}, settled ${timeText(phase.seconds)}`
      : `${held.start} ${came?.of === 'hold' ? came.data.unit : unit}, no end reading`;
  }
  if (phase.kind === 'measure')
    return came?.of === 'points' && Object.keys(came.data).length > 1 ? roomOfMeasure(phase.limit).reports(came.data) : undefined;
  if (phase.kind === 'zero')
    return came?.of === 'zero' ? `${came.shown} ${unitLabel(instrumentOf(plan, phase.instrument).unit)} off the hose` : undefined;
  if (phase.kind === 'observe') return phase.options.find(({ id }) => 'outcome' in state && id === state.outcome)?.label;
  return undefined;
}

const ruleOf = (plan: Plan, phase: Phase): string =>
  phase.kind === 'hold'
    ? holdRule(phase.limit, unitLabel(unitOfHold(plan, phase)))
    : phase.kind === 'measure'
      ? measureRule(phase.limit)
      : phase.kind === 'zero'
        ? `Under ${phase.below} ${unitLabel(instrumentOf(plan, phase.instrument).unit)}.`
        : '';

/** An attempt: what each phase came to and by which rule, every figure read, why it was judged so, and what happened on the way. */
export function attemptOf({ record, locale }: Frame, judged: Judged, attempt: Attempt): readonly Block[] {
  const { plan, events } = attempt;
  const judgement = judgementOf(attempt);
  const offset = offsetOf(attempt);
  const span = spanOfAttempt(attempt);
  const several = judged.test.attempts.length > 1;
  const isLast = attempt === judged.attempt;
  const at = (ms: number) => hourText(datedIn(events, ms), offset, locale, true);
  const rows = judgement.phases.flatMap((state): readonly (readonly string[])[] => {
    const phase = plan.phases.find(({ id }) => id === state.id);
    const came = phase === undefined ? undefined : phaseRow(plan, phase, state);
    if (phase === undefined || came === undefined) return [];
    const { startAt, endAt } = spanOf(state);
    return [
      [
        `${phase.title}${state.round > 1 ? `, round ${state.round}` : ''}`,
        startAt === undefined ? '' : `${at(startAt)}${endAt === undefined ? '' : ` to ${at(endAt)}`}`,
        came,
        ruleOf(plan, phase),
      ],
    ];
  });
  const reasons = said(plan, judgement);
  // What only the device went through is no customer's affair; a claim that rests on it has a sentence of its own.
  const notes = reasons.filter(({ weight, code }) => weight === 'note' && !['simulated', 'gap', 'pen-elsewhere'].includes(code));
  return [
    heading(2, several ? `Attempt ${attempt.number}: ${verdictWords[judgement.verdict].title.toLowerCase()}` : 'The course of the test'),
    ...(span === undefined ? [] : [say(`It ran ${spanText(span.from, span.to, offset, locale)}.`, 'quiet')]),
    ...table(
      several ? `What each phase of attempt ${attempt.number} came to` : 'What each phase came to',
      [column('Phase', 3), column('When', 3, true), column('What it came to', 5, true), column('Rule', 5)],
      rows,
    ),
    ...otherPictures({ ...judged, attempt, plan, judgement }, locale, isLast),
    ...readings(record, attempt, locale),
    heading(3, 'Why'),
    ...reasons
      .filter(({ weight }) => weight !== 'note')
      .flatMap(({ sentence, working }) => [say(sentence), ...working.map((line) => say(line, 'quiet'))]),
    ...notes.map(({ sentence }) => say(`Noted: ${sentence}`, 'quiet')),
    ...happened({ record, locale }, attempt),
  ];
}

const most = 60;

/** Figures as they were read, each with its moment; a long log is named and stands in the record. */
function readings(record: TestRecord, { plan, events }: Attempt, locale: PaperLocale): readonly Block[] {
  const withdrawn = new Set(events.flatMap((event) => (event.type === 'withdrawn' ? [event.reading] : [])));
  const read = events.filter((event): event is EventOf<'reading'> => event.type === 'reading');
  const traced = events.filter((event): event is EventOf<'trace'> => event.type === 'trace');
  const weighty = read.length <= most ? read : read.filter(({ role }) => role !== 'between');
  const title = (id: string) => plan.phases.find((phase) => phase.id === id)?.title ?? id;
  const pointLabel = (event: EventOf<'reading'>) => {
    const phase = plan.phases.find(({ id }) => id === event.phase);
    return phase?.kind === 'measure' ? phase.points.find(({ id }) => id === event.point)?.label : undefined;
  };
  const samples = traced.reduce((sum, { values }) => sum + values.length, 0);
  return [
    ...table(
      'Figures as they were read',
      [column('When', 2, true), column('Phase', 3), column('What', 3), column('Read', 2, true), column('By', 3)],
      weighty.map((event) => [
        hourText(datedIn(events, event.observedAt), event.offsetMinutes, locale, true),
        `${title(event.phase)}${event.round > 1 ? `, round ${event.round}` : ''}`,
        `${pointLabel(event) ?? event.role}, ${event.quantity}${withdrawn.has(event.id) ? ' (withdrawn)' : ''}`,
        `${event.qualifier === 'below range' ? 'below ' : ''}${event.value} ${unitLabel(event.unit)}`,
        `${nameOf(record, event.author)}${event.source === 'keypad' ? '' : `, ${event.source}`}`,
      ]),
    ),
    ...(weighty.length === read.length
      ? []
      : [say(`${read.length - weighty.length} more readings between these stand in the record that is attached.`, 'quiet')]),
    ...(samples === 0 ? [] : [say(`${samples} samples of the gauge’s trace stand in the record that is attached.`, 'quiet')]),
  ];
}

/** Events that a reader of the paper should know of, in words. */
const told: { readonly [T in EventType]?: (event: EventOf<T>, events: readonly RunEvent[]) => string } = {
  disturbance: ({ what, text }) => `Disturbed: ${what}${text === '' ? '' : `, ${text}`}`,
  waived: ({ reason }) => `A disturbance set aside: ${reason}`,
  withdrawn: ({ reason }) => `Something written was withdrawn: ${reason}`,
  restart: ({ reason }) => `Begun again: ${reason}`,
  'hold-stopped': ({ reason }) => `A hold stopped early: ${reason}`,
  'not-reached': ({ text }) => `Pressure not reached${text === '' ? '' : `: ${text}`}`,
  'leak-seen': ({ where, text }) => `Leak seen on the ${where}${text === '' ? '' : `: ${text}`}`,
  smell: ({ text }) => `Gas was smelt${text === '' ? '' : `: ${text}`}`,
  inspected: ({ sound, text }) => `Looked at after standing too high: ${sound ? 'sound' : 'harmed'}${text === '' ? '' : `, ${text}`}`,
  stopped: ({ reason }) => `The test was ended: ${reason}`,
  note: ({ text }) => `Note: ${text}`,
  searched: ({ section, method, leak, text }) =>
    `Searched ${section} by ${method}: ${leak ? 'a leak' : 'nothing found'}${text === '' ? '' : `, ${text}`}`,
  isolation: (event) =>
    event.step === 'said'
      ? `Isolated ${event.section}: ${event.stillLeaks ? 'still leaks' : 'leaks no more'}`
      : `Isolated ${event.section}, ${event.step}: ${event.value} ${unitLabel(event.unit)}`,
};

function happened({ record, locale }: Frame, { events }: Attempt): readonly Block[] {
  return table(
    'What happened on the way',
    [column('When', 2, true), column('What', 8), column('Written by', 3)],
    events.flatMap((event) => {
      const words = (told[event.type] as ((one: RunEvent, all: readonly RunEvent[]) => string) | undefined)?.(event, events);
      return words === undefined
        ? []
        : [[hourText(datedIn(events, event.observedAt), event.offsetMinutes, locale, true), words, nameOf(record, event.author)]];
    }),
  );
}
