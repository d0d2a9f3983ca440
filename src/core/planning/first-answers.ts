import { type Answers, isAsked, type KnownSystem, type Parameter, type Procedure } from '../procedures/procedure';
import { parsePipeSchedule, systemVolume } from '../sizing/pipe-volume';

/** Where an answer comes from that nobody has given for this test. */
export type AnswerSource = 'last test' | 'register' | 'schedule' | 'usual';

export interface FirstAnswers {
  readonly answers: Answers;
  /** Of every question that has an answer. */
  readonly from: Readonly<Record<string, AnswerSource>>;
}

/**
 * What a plan of a system begins with: what the same test was planned from last time, what the register knows, and what is presumed.
 * Everything else is to be answered by whoever plans; what was seen, smelled or done is never carried over.
 * @param lastTest answers of the last test of this system by this procedure
 * @param ofSystem what is known of the system for good
 */
export function firstAnswers(procedure: Procedure, known: KnownSystem, lastTest: Answers | undefined, ofSystem: Answers): FirstAnswers {
  const each = new Set(procedure.askedEachTime ?? []);
  const presumed = new Set(procedure.presumed ?? []);
  const answers: Record<string, string> = {};
  const from: Record<string, AnswerSource> = {};
  const give = (source: AnswerSource, given: Answers, ids: (parameter: Parameter) => boolean = () => true) => {
    for (const parameter of procedure.parameters) {
      const value = given[parameter.id];
      if (value === undefined || !ids(parameter) || !fits(parameter, value)) continue;
      answers[parameter.id] = value;
      from[parameter.id] = source;
    }
  };
  give('usual', Object.fromEntries(procedure.parameters.map(({ id, usual }) => [id, usual])), ({ id }) => presumed.has(id));
  give('register', ofSystem, ({ id }) => !each.has(id));
  give('last test', lastTest ?? {}, ({ id }) => !each.has(id));
  give('register', {
    ...(known.rated.length === 0
      ? {}
      : Object.fromEntries(procedure.parameters.filter(({ kind }) => kind === 'components').map(({ id }) => [id, known.rated.join('\n')]))),
    ...procedure.fromRegister?.(known),
  });
  return { answers, from };
}

/** An answer of another build, or another kind of question, is none. */
const fits = (parameter: Parameter, value: string): boolean =>
  value !== '' || 'optional' in parameter || parameter.kind === 'components'
    ? parameter.kind !== 'choice' || parameter.options.some((option) => option.value === value)
    : false;

/** Answers that the pipe schedule gives, where it can be read. */
export function answersOfPipes({ fromPipes }: Procedure, pipes: string): Answers {
  const { pipes: runs, problems } = parsePipeSchedule(pipes);
  if (fromPipes === undefined || runs.length === 0 || problems.length > 0) return {};
  const sum = systemVolume({ pipes: runs, meterL: 0, rigHoseL: 0 });
  return sum.ok ? fromPipes(sum.value, runs) : {};
}

/** Questions that matter, given the other answers, and have none yet. */
export const openQuestions = (procedure: Procedure, answers: Answers): readonly Parameter[] =>
  procedure.parameters.filter((parameter) => {
    const optional = parameter.kind === 'components' || ('optional' in parameter && parameter.optional === true);
    return !optional && isAsked(procedure, parameter, answers) && (answers[parameter.id] ?? '').trim() === '';
  });
