import { type Phase, sceneOf, sightWords, untold } from '../course';
import { dateText } from '../exact';
import { type Judgement, judge, type PhaseJudgement, said, sentenceOf, sightAsHeld, spanOf, tracesOf } from '../judging';
import { datedIn } from '../judging/events';
import { decides } from '../judging/rooms';
import { type Figure, roomOfHold, roomOfMeasure } from '../limits';
import type { Plan } from '../planning';
import { type Attempt, meaningOf, nameOf, type PaperLocale, type RecordedTest, type TestRecord, verdictWords } from '../record';
import { type Block, heading, say } from './blocks';
import { type Picture, type Pictured, pictureOf } from './pictures';
import { dateWords, spanText } from './times';

/** A test under a paper with its last attempt judged: as it was sealed, or now. */
export interface Judged {
  readonly test: RecordedTest;
  readonly attempt: Attempt;
  readonly plan: Plan;
  readonly judgement: Judgement;
}

export const judgementOf = ({ judgement, plan, events }: Attempt): Judgement => judgement ?? judge(plan, events);

/** @throws RangeError for a test without an attempt, which no schema lets through */
export function judgedTest(test: RecordedTest): Judged {
  const attempt = test.attempts[test.attempts.length - 1];
  if (attempt === undefined) throw new RangeError('a recorded test has an attempt');
  return { test, attempt, plan: attempt.plan, judgement: judgementOf(attempt) };
}

/** Minutes east of UTC where an attempt was made. */
export const offsetOf = ({ events }: Pick<Attempt, 'events'>): number =>
  events.find(({ device }) => device !== 'server')?.offsetMinutes ?? 0;

/** Widths of a picture: that of the text on an A4 sheet. */
export const pictureWidth = 483;

/** What a paper is about, whatever test: its locale and its people. */
export interface Frame {
  readonly record: TestRecord;
  readonly locale: PaperLocale;
}

/** The page that answers: what, where, for whom, by whom, what came of it, the decisive figures, the picture, and what it does not say. */
export function answerOf({ record, locale }: Frame, judged: Judged, whole: boolean): readonly Block[] {
  const { test, plan, judgement } = judged;
  const picture = mainPicture(judged, locale);
  const figures = figuresOf(plan, judgement);
  const reasons = said(plan, judgement).filter(({ weight }) => weight !== 'note');
  return [
    say(leadOf({ record, locale }, judged, whole), 'lead'),
    {
      kind: 'verdict',
      verdict: judgement.verdict,
      title: verdictWords[judgement.verdict].title,
      meaning: meaningOf(plan, judgement.verdict),
    },
    ...(judgement.simulated
      ? [say('SIMULATED: readings came from a simulated gauge. This is practice and proves nothing about a real installation.', 'stop')]
      : []),
    ...earlierFailures(test),
    ...reasons.map(({ sentence }) => say(sentence)),
    ...(figures.length === 0 ? [] : [{ kind: 'figures' as const, figures }]),
    ...(picture === undefined ? [] : [{ kind: 'drawing' as const, ...picture }]),
    heading(3, 'What this test can see'),
    ...sightOf(judged),
    heading(3, 'Not tested'),
    { kind: 'list', items: plan.notTested },
    heading(3, 'Test again'),
    say(againOf(judged, locale)),
  ];
}

/** The figures of the phase that decides. */
export const receiptFigures = ({ plan, judgement }: Judged): readonly Figure[] => figuresOf(plan, judgement).slice(0, 4);

/** Its trace, so narrow that a roll takes it; other pictures need the paper. */
export function receiptPicture(judged: Judged, locale: PaperLocale, width: number): Picture | undefined {
  const phase = judged.plan.phases.find(({ id }) => id === decidedBy(judged.plan, judged.judgement));
  const state = judged.judgement.phases.find(({ id }) => id === phase?.id);
  if (phase === undefined || state === undefined || !['trace', 'level'].includes(sceneOf(judged.plan, phase))) return undefined;
  return pictureOf(phase, { ...picturedFrom(judged, state, locale, true), width });
}

/** One sentence: what was tested, where, when, for whom and by whom; whatever nobody stated is left out. */
export function leadOf({ record, locale }: Frame, { test, attempt }: Judged, whole: boolean): string {
  const { site, firm } = record;
  const span = spanOfAttempt(attempt);
  const technician = test.details === undefined ? undefined : nameOf(record, test.details.technician);
  const licence = record.people?.find(({ id }) => id === test.details?.technician)?.licence ?? '';
  const place = whole ? [site?.name, site?.address].filter((text) => (text ?? '') !== '').join(', ') : '';
  return [
    test.system?.name ?? 'A system that was not named',
    ...(place === '' ? [] : [`at ${place}`]),
    'was tested',
    ...(span === undefined ? [] : [spanText(span.from, span.to, offsetOf(attempt), locale)]),
    ...(whole && (site?.occupier ?? '') !== '' ? [`for ${site?.occupier}`] : []),
    ...(technician === undefined ? [] : [`by ${technician}${licence === '' ? '' : `, licence ${licence}`}`]),
    ...(technician === undefined || firm === undefined ? [] : [`${licence === '' ? '' : ', '}of ${firm.name}`]),
  ]
    .join(' ')
    .replaceAll(' , ', ', ')
    .concat('.');
}

/** From the first reading or tick to the last, by the server's clock. */
export function spanOfAttempt({ events }: Attempt): { readonly from: number; readonly to: number } | undefined {
  const own = events.filter(({ type, device }) => device !== 'server' && type !== 'guard' && type !== 'pen');
  const [first, last] = [own[0], own[own.length - 1]];
  if (first === undefined || last === undefined) return undefined;
  return { from: datedIn(events, first.observedAt), to: datedIn(events, last.observedAt) };
}

/** Whoever reads only the first page must not take the last attempt for the whole story. */
function earlierFailures({ attempts }: RecordedTest): readonly Block[] {
  return attempts.slice(0, -1).flatMap((attempt) => {
    const judgement = judgementOf(attempt);
    if (judgement.verdict !== 'fail') return [];
    const why = judgement.reasons.filter(({ weight }) => weight === 'override' || weight === 'fail').map(sentenceOf)[0] ?? '';
    return [
      say(
        `Attempt ${attempt.number} of this test failed. ${why} The verdict above is attempt ${attempts[attempts.length - 1].number}’s and covers only what that one tested.`,
        'caution',
      ),
    ];
  });
}

/** Phases whose figures decide and that were read to their end, the one that the verdict goes by first. */
function deciding(plan: Plan, judgement: Judgement): readonly { readonly phase: Phase; readonly state: PhaseJudgement }[] {
  const first = decidedBy(plan, judgement);
  const found = plan.phases.flatMap((phase) => {
    const state = judgement.phases.find(({ id }) => id === phase.id);
    const counts = decides(phase) || phase.id === first;
    return state !== undefined && 'came' in state && 'data' in state.came && counts ? [{ phase, state }] : [];
  });
  const read = found.filter(({ state }) => figuresOfPhaseState(plan, state).length > 0);
  return [...read.filter(({ phase }) => phase.id === first), ...read.filter(({ phase }) => phase.id !== first)];
}

/** The phase that the verdict goes by: the one that the first conclusion speaks of where it was read, else the last of its kind. */
function decidedBy(plan: Plan, { phases, reasons }: Judgement): string {
  const [weighty] = reasons;
  // What failed is what is shown, whichever phase was meant to decide.
  if (weighty?.phase !== undefined && weighty.weight !== 'note') return weighty.phase;
  const wasRead = (id: string) => phases.some((state) => state.id === id && 'came' in state && 'data' in state.came);
  const others = plan.sight.flatMap(({ phase, orBy = [] }) => (phase === plan.judgedBy ? orBy : []));
  return [...others].reverse().find(wasRead) ?? plan.judgedBy;
}

export function figuresOfPhaseState(plan: Plan, state: PhaseJudgement): readonly Figure[] {
  const phase = plan.phases.find(({ id }) => id === state.id);
  if (phase === undefined || !('came' in state) || !('data' in state.came) || Object.keys(state.came.data).length < 2) return [];
  const { data } = state.came;
  if (phase.kind === 'hold' && state.came.of === 'hold' && state.came.end !== undefined) return roomOfHold(phase.limit).figures(data);
  return phase.kind === 'measure' ? roomOfMeasure(phase.limit).figures(data) : [];
}

/** The decisive figures: all of the phase that decides, and the first of each other one, named by its phase. */
function figuresOf(plan: Plan, judgement: Judgement): readonly Figure[] {
  const [first, ...others] = deciding(plan, judgement);
  if (first === undefined) return [];
  const own = figuresOfPhaseState(plan, first.state);
  const beside = others.flatMap(({ phase, state }) =>
    figuresOfPhaseState(plan, state)
      .slice(0, 1)
      .map((figure) => ({
        ...figure,
        // A phase that is named by its figure says it once.
        label: figure.label.toLowerCase() === phase.title.toLowerCase() ? phase.title : `${phase.title}: ${figure.label.toLowerCase()}`,
      })),
  );
  return [...own, ...beside].slice(0, 8);
}

/** What pictures of an attempt are drawn from. */
const picturedFrom = ({ attempt, plan, judgement }: Judged, state: PhaseJudgement, locale: PaperLocale, small: boolean): Pictured => ({
  plan,
  judgement,
  state,
  points: tracesOf(plan, judgement, attempt.events, undefined, 0).find(({ phase }) => phase === state.id)?.points ?? [],
  offsetMinutes: offsetOf(attempt),
  locale,
  width: pictureWidth,
  small,
});

/** The picture of the phase that decides. */
function mainPicture(judged: Judged, locale: PaperLocale): Picture | undefined {
  const { plan, judgement } = judged;
  const decided = decidedBy(plan, judgement);
  const order = [
    decided,
    ...deciding(plan, judgement).map(({ phase }) => phase.id),
    ...plan.phases.filter(({ picture }) => picture !== undefined).map(({ id }) => id),
  ];
  for (const id of order) {
    const phase = plan.phases.find((one) => one.id === id);
    const state = judgement.phases.find((one) => one.id === id);
    const picture = phase === undefined || state === undefined ? undefined : pictureOf(phase, picturedFrom(judged, state, locale, false));
    if (picture !== undefined) return picture;
  }
  return undefined;
}

/** Pictures of everything else that was read or looked at, in the order of the test. */
export function otherPictures(judged: Judged, locale: PaperLocale, isLast: boolean): readonly Block[] {
  const { plan, judgement } = judged;
  const main = isLast ? mainPicture(judged, locale) : undefined;
  return plan.phases.flatMap((phase): readonly Block[] => {
    const state = judgement.phases.find(({ id }) => id === phase.id);
    if (state === undefined || (spanOf(state).startAt === undefined && phase.picture === undefined)) return [];
    // Where only time passes nothing is to be seen.
    if (phase.kind === 'hold' && phase.limit.kind === 'wait') return [];
    const picture = pictureOf(phase, picturedFrom(judged, state, locale, true));
    return picture === undefined || picture.says === main?.says ? [] : [{ kind: 'drawing', ...picture }];
  });
}

/** What it is sure of, part by part; what that takes for granted stands among the details. */
function sightOf({ plan, judgement }: Judged): readonly Block[] {
  const parts = sightAsHeld(plan, judgement).map((part) =>
    part.told === false ? `In ${part.what}: ${untold}.` : `In ${part.what}: ${sightWords(part).sure}.`,
  );
  const lines = [...parts, ...(plan.sightSays === undefined ? [] : [plan.sightSays])];
  return lines.length === 0 ? [say('No figure was worked out for what it can see.')] : lines.map((text) => say(text));
}

function againOf({ plan, judgement, attempt }: Judged, locale: PaperLocale): string {
  switch (judgement.verdict) {
    case 'pass':
    case 'pass with permitted drop':
      return 'After any work on it, and whenever a leak is suspected. A test tells of its own day.';
    case 'restricted': {
      const by = judgement.reasons.find(({ data }) => data.by !== undefined)?.data.by;
      return `${by === undefined ? 'Within the time given' : `By ${dateWords(by, locale)}`}, after the repair, the whole test from its first phase.`;
    }
    case 'fail':
      return 'After the repair, the whole test from its first phase.';
    case 'inconclusive':
    case 'invalid':
      return 'Before anyone relies on it: nothing was proved.';
    case 'in progress': {
      const last = attempt.events[attempt.events.length - 1];
      return `The test is not finished${last === undefined ? '' : ` as of ${dateWords(dateText(last.observedAt), locale)}`}: ${plan.procedure.title} goes on.`;
    }
  }
}
