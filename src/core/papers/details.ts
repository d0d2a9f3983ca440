import { sightSentences, weatherOf } from '../course';
import { boundaryStates, cardsOf, guardLooks, guardText, itemsOf, sightAsHeld } from '../judging';
import { datedIn } from '../judging/events';
import { unitLabel } from '../quantities';
import { type Attempt, inSentence, nameOf, type PaperLocale } from '../record';
import { calibrationText, noGauge, rigWords } from '../sizing';
import { type Frame, type Judged, judgementOf } from './answer';
import { attemptOf } from './attempts';
import { type Block, column, heading, say, table } from './blocks';
import { hourText, momentText } from './times';

/** Everything that stands behind the answer of one test: rules, instruments, attempts, checks, cards, search, guard gauge. */
export const detailsOf = (frame: Frame, judged: Judged): readonly Block[] => [
  ...rules(judged),
  ...instruments(judged),
  ...judged.test.attempts.flatMap((attempt) => attemptOf(frame, judged, attempt)),
  ...checks(frame, judged),
  ...cards(judged),
  ...guard(frame, judged),
  ...particulars(judged),
];

function rules({ plan, judgement }: Judged): readonly Block[] {
  const { procedure, volume, pipes } = plan;
  const own = procedure.variant === undefined ? '' : `; the firm’s own, by ${procedure.variant.reference}`;
  const from = volume.how === 'schedule' ? 'from the pipe schedule' : volume.how === 'measured' ? 'measured' : 'as stated';
  const range = volume.lowest === undefined ? '' : `, estimated between ${volume.lowest} and ${volume.litres} L`;
  return [
    heading(2, 'Rules and limits'),
    say(
      `${procedure.title}, ${inSentence(procedure.school)}, version ${procedure.version}${own}. Tested with ${plan.medium}.${
        volume.how === 'answers' || volume.how === 'unknown' ? '' : ` Volume ${volume.litres} L, ${from}${range}.`
      }`,
    ),
    ...plan.derivation.map((line) => say(line)),
    ...table(
      'What was asked before the test, and answered',
      [column('Asked', 2), column('Answered', 3)],
      [...plan.answerLabels.map(({ label, value }) => [label, lines(value)]), ...(pipes.length === 0 ? [] : [['Pipes', pipes.join('; ')]])],
    ),
    ...ownFigures(plan),
    heading(3, 'What this test can see, and what that takes for granted'),
    ...sightSentences(sightAsHeld(plan, judgement), plan.sightSays).map((line) => say(line)),
    ...table(
      'Edges of what was tested',
      [column('Edge', 3), column('How it was proved', 3), column('Beyond it', 3)],
      boundaryStates(plan, judgement.phases).map(({ label, how, beyond }) => [label, how, beyond]),
    ),
  ];
}

/** Figures that are not the procedure's own, each beside the one that it stands for (DOMAIN 4.10). */
function ownFigures({ figures, procedure }: Judged['plan']): readonly Block[] {
  const own = figures.filter(({ source }) => source !== 'procedure');
  const rest = figures.length - own.length;
  return [
    ...table(
      'Figures other than the procedure’s',
      [column('Figure', 4), column('Used', 2, true), column('Procedure', 2, true), column('From', 3)],
      own.map(({ label, value, unit, procedureValue, source, reference }) => [
        label,
        `${value} ${unit}`.trimEnd(),
        `${procedureValue} ${unit}`.trimEnd(),
        `${source}${reference === undefined ? '' : `: ${reference}`}`,
      ]),
    ),
    ...(rest === 0
      ? []
      : [
          say(
            `${own.length === 0 ? 'Every figure is' : 'All others are'} the procedure’s own, version ${procedure.version}; they stand in the record.`,
            'quiet',
          ),
        ]),
  ];
}

/** Several lines of an answer as one. */
const lines = (text: string): string =>
  text
    .split('\n')
    .map((one) => one.trim())
    .filter((one) => one !== '')
    .join('; ');

/** Every instrument that any attempt read, once. */
function instruments({ test }: Judged): readonly Block[] {
  const rows = new Map<string, readonly string[]>();
  for (const { plan } of test.attempts)
    for (const instrument of [plan.gauge, ...Object.values(plan.instruments ?? {}), ...weatherOf(plan).map((one) => one.instrument)]) {
      if (instrument.id === noGauge.id) continue;
      const unit = unitLabel(instrument.unit);
      const row = [
        `${instrument.name}${instrument.simulated ? ' (simulated)' : ''}`,
        instrument.serial === '' ? 'none stated' : instrument.serial,
        `steps of ${instrument.readability} ${unit}, ${instrument.rangeLow} to ${instrument.rangeHigh} ${unit}`,
        `${instrument.calibration.needed ? calibrationText(instrument) : 'needs none: a column, rule, dial or vessel'}${
          instrument.rigCheck === undefined ? '' : `; its rig ${rigWords(instrument.rigCheck)}`
        }`,
      ];
      // The same instrument in several attempts stands once; calibrated between them, it stands twice.
      rows.set(row.join('\n'), row);
    }
  const found = [...rows.values()];
  return found.length === 0
    ? [heading(2, 'Instruments'), say('None: what counts here was seen.')]
    : [
        heading(2, 'Instruments'),
        ...table(
          'Instruments, with their calibration',
          [column('Instrument', 4), column('Serial', 2, true), column('Shows', 4, true), column('Calibration', 5)],
          found,
        ),
      ];
}

const answers: Readonly<Record<string, string>> = {
  done: 'done',
  'not-applicable': 'does not apply',
  proved: 'proved',
  plugged: 'plugged or capped',
  unproved: 'not proved',
};

/** Every step of an attempt that was to be ticked off, with its answer; one that was not stands as not done. */
function stepRows(locale: PaperLocale, attempt: Attempt): readonly (readonly string[])[] {
  const { plan } = attempt;
  const { phases } = judgementOf(attempt);
  return plan.phases.flatMap((phase) => {
    if (phase.kind !== 'check') return [];
    const state = phases.find(({ id }) => id === phase.id);
    if (state === undefined || state.state === 'skipped' || state.state === 'waiting') return [];
    const given = itemsOf(state);
    return phase.items.map((item) => {
      const answer = given.find(({ id }) => id === item.id);
      const event = attempt.events.findLast((one) => one.type === 'check' && one.phase === phase.id && one.item === item.id);
      const word =
        answer === undefined ? 'not done' : answer.state === 'plugged' ? (item.plugged ?? answers.plugged) : answers[answer.state];
      return [
        item.text,
        `${(word ?? '').toLowerCase()}${answer?.text === undefined || answer.text === '' ? '' : `: ${answer.text}`}`,
        answer === undefined || event === undefined ? '' : hourText(datedIn(attempt.events, event.observedAt), event.offsetMinutes, locale),
      ];
    });
  });
}

/** What was ticked off, attempt by attempt. */
function checks({ locale }: Frame, { test: { attempts } }: Judged): readonly Block[] {
  const tables = attempts.flatMap((attempt) =>
    table(
      attempts.length > 1 ? `Steps of attempt ${attempt.number} and their answers` : 'Steps of the test and their answers',
      [column('Step', 7), column('Answer', 4), column('At', 1.5, true)],
      stepRows(locale, attempt),
    ),
  );
  return tables.length === 0 ? [] : [heading(2, 'Checks'), ...tables];
}

/** A card per appliance that was gone round. */
function cards({ test, plan }: Judged): readonly Block[] {
  const found = cardsOf(test.attempts.flatMap(({ events }) => events));
  if (found.length === 0) return [];
  return [
    heading(2, 'Appliances'),
    ...found.flatMap(({ name, make, model, serial, was, checks: looked }) => [
      heading(3, name),
      say(
        [
          make === '' ? undefined : `Make ${make}`,
          model === '' ? undefined : `model ${model}`,
          serial === '' ? undefined : `serial ${serial}`,
          was === undefined || was === serial ? undefined : `another appliance than before (serial ${was})`,
        ]
          .filter((text) => text !== undefined)
          .join(', ')
          .concat('.')
          .replace(/^\.$/, 'No plate was read.'),
        'quiet',
      ),
      ...table(
        `Checks of ${name}`,
        [column('Looked at', 4), column('Found', 2), column('To be done', 5)],
        looked.map(({ id, ok, todo }) => [
          plan.round?.find((one) => one.id === id)?.label ?? id,
          ok ? 'in order' : 'not in order',
          ok ? '' : (todo ?? '') === '' ? 'not written down' : (todo ?? ''),
        ]),
      ),
    ]),
  ];
}

/** The gauge that stays on: how it was left, and every look at it until the paper was sealed. */
function guard({ record, locale }: Frame, { test, plan }: Judged): readonly Block[] {
  const looks = test.attempts.flatMap(({ plan: own, events }) => guardLooks(own, events));
  if (looks.length === 0 || plan.guard === undefined) return [];
  return [
    heading(2, 'Guard gauge'),
    ...table(
      'The gauge that stays on',
      [column('When', 4, true), column('Read', 3, true), column('Says', 5), column('By', 3)],
      looks.map(({ event, state }, index) => [
        momentText(event.observedAt, event.offsetMinutes, locale),
        guardText(event.value, event.unit, event.celsius),
        index === 0 ? 'as it was left' : state === undefined ? 'not compared' : state.sentence,
        nameOf(record, event.author),
      ]),
    ),
  ];
}

/** What was stated of the job; what nobody stated is not printed. */
function particulars({ test }: Judged): readonly Block[] {
  const { details, system } = test;
  const rows = [
    ['What led to the job', details?.jobOrigin ?? ''],
    ['Meter number', details?.meterNumber ?? ''],
    ['Meter reading', details?.meterReading ?? ''],
    ['Looked over before', details?.visualInspection === 'done' ? 'done' : ''],
    ['Fitted to it', (system?.components ?? []).join('; ')],
  ].filter(([, value]) => value !== '');
  return rows.length === 0
    ? []
    : [heading(2, 'Particulars'), ...table('What was stated of the job', [column('What', 2), column('Stated', 6)], rows)];
}

/** Every caution of every plan, once. */
export const cautionsOf = (judged: readonly Judged[]): readonly string[] => [
  ...new Set(judged.flatMap(({ plan }) => Object.values(plan.cautions))),
];
