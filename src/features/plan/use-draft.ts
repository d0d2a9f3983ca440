import { useCallback, useEffect, useState } from 'react';
import { type AnswerSource, answersOfPipes, firstAnswers, type Plan, type Stricter } from '@/core/planning';
import type { Answers, Procedure } from '@/core/procedures';
import { componentText, ratedText } from '@/core/register';
import type { EarlierPlan, Ground, GroundSystem } from '@/device/ground';

/** Where an answer came from that nobody gave for this test: an attempt begins with those of the one before. */
export type Source = AnswerSource | 'attempt before' | 'copied';

/** What a plan is made from, as it stands on the screen. */
export interface Draft {
  readonly answers: Answers;
  /** Of answers that nobody gave here. */
  readonly from: Readonly<Record<string, Source>>;
  /** When the test was that answers were carried over from, a local date. */
  readonly carriedOn?: string;
  readonly pipes: string;
  readonly statedVolume: string;
  /** Empty where nobody has chosen yet: then the first that suits stands. */
  readonly gaugeId: string;
  /** Instruments beside the gauge, by role. */
  readonly instrumentIds: Readonly<Record<string, string>>;
  /** Thermometer and barometer; empty where none is named. */
  readonly thermometerId: string;
  readonly barometerId: string;
  /** Figures that this job takes stricter. */
  readonly stricter: readonly Stricter[];
  /** The firm's own procedure that is followed; empty for the procedure itself. */
  readonly variantId: string;
  readonly jobOrigin: string;
  readonly meterNumber: string;
  readonly meterReading: string;
  readonly visualInspection: boolean;
}

/** The parts of a draft that another plan can give. */
export type Start = Omit<Draft, 'jobOrigin' | 'meterNumber' | 'meterReading' | 'visualInspection'>;

const equipmentOf = ({ gauge, instruments, variant = '', thermometer = '', barometer = '' }: EarlierPlan) => ({
  gaugeId: gauge,
  instrumentIds: instruments,
  variantId: variant,
  thermometerId: thermometer,
  barometerId: barometer,
  // What one job asked for is not asked of the next.
  stricter: [],
});

const all = (answers: Answers, source: Source): Readonly<Record<string, Source>> =>
  Object.fromEntries(Object.keys(answers).map((id) => [id, source]));

/** What can be copied of another plan, of whatever system: all but what is asked afresh at every test. */
export function startOf({ askedEachTime = [] }: Procedure, plan: EarlierPlan): Start {
  const answers = Object.fromEntries(Object.entries(plan.answers).filter(([id]) => !askedEachTime.includes(id)));
  return {
    answers,
    from: all(answers, 'copied'),
    carriedOn: plan.on,
    pipes: plan.pipes,
    statedVolume: plan.statedVolume,
    ...equipmentOf(plan),
  };
}

/** A new attempt begins with the plan of the one before: the same visit, the same hands. */
export const startOfPlan = (plan: Plan): Start => ({
  answers: plan.answers,
  from: all(plan.answers, 'attempt before'),
  pipes: plan.pipes.join('\n'),
  statedVolume: plan.volume.typed,
  gaugeId: plan.gauge.id,
  instrumentIds: Object.fromEntries(Object.entries(plan.instruments ?? {}).map(([role, { id }]) => [role, id])),
  variantId: plan.procedure.variant?.id ?? '',
  thermometerId: plan.weather?.thermometer?.id ?? '',
  barometerId: plan.weather?.barometer?.id ?? '',
  stricter: plan.figures
    .filter(({ source }) => source === 'this job')
    .map(({ id, value, reference = '' }) => ({ figure: id, value, reference })),
});

const newest = (tests: Ground['earlier']): Answers => Object.assign({}, ...tests.map(({ answers }) => answers).reverse());

/** Another system of its kind on its site. */
const isBeside = ({ systems }: Ground, { id, kind, site }: GroundSystem, other: string): boolean =>
  other !== id && systems.some((one) => one.id === other && one.kind === kind && one.site?.id === site?.id);

/** What a plan of this system begins with: its last test by this procedure, what the register knows, and what is presumed. */
export function usualStart(ground: Ground, system: GroundSystem, procedure: Procedure): Start {
  const own = ground.earlier.filter(({ systemId }) => systemId === system.id);
  const last = own.find(({ procedure: id }) => id === procedure.id);
  const known = {
    name: system.name,
    components: system.components.map(componentText),
    rated: system.components.flatMap((one) => ratedText(one) ?? []),
    // The newest answer to each question, by whatever procedure it was asked.
    last: newest(own),
    beside: newest(ground.earlier.filter(({ systemId }) => isBeside(ground, system, systemId))),
  };
  const { answers, from } = firstAnswers(procedure, known, last?.answers, system.answers);
  const pipes = last?.pipes ?? system.pipes;
  const begun = {
    answers: { ...answers, ...answersOfPipes(procedure, pipes) },
    from: { ...from, ...all(answersOfPipes(procedure, pipes), 'schedule') },
    ...(last === undefined ? {} : { carriedOn: last.on }),
    pipes,
    statedVolume: last?.statedVolume ?? system.statedVolume,
  };
  if (last === undefined)
    return { ...begun, gaugeId: '', instrumentIds: {}, variantId: '', thermometerId: '', barometerId: '', stricter: [] };
  return withoutSimulated(ground, { ...begun, ...equipmentOf(last) });
}

/** Practice on a simulated gauge is no reason to take it to the next job. */
function withoutSimulated({ instruments }: Ground, start: Start): Start {
  const real = (id: string) => instruments.some((one) => one.id === id && !one.simulated);
  return {
    ...start,
    gaugeId: real(start.gaugeId) ? start.gaugeId : '',
    instrumentIds: Object.fromEntries(Object.entries(start.instrumentIds).filter(([, id]) => real(id))),
    thermometerId: real(start.thermometerId) ? start.thermometerId : '',
    barometerId: real(start.barometerId) ? start.barometerId : '',
  };
}

/** For a look ahead, where nothing is decided yet: whatever is open is taken as usual. */
export const asUsual = ({ parameters }: Procedure, start: Start): Start => ({
  ...start,
  answers: { ...Object.fromEntries(parameters.map(({ id, usual }) => [id, usual])), ...start.answers },
});

function readDraft(key: string): Partial<Draft> {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? '{}');
  } catch {
    return {};
  }
}

/** A draft survives reload: nothing typed is lost. */
export function useDraft(key: string, procedure: Procedure, start: () => Start, variantId: string | undefined) {
  const [draft, setDraft] = useState<Draft>(() => ({
    jobOrigin: '',
    meterNumber: '',
    meterReading: '',
    visualInspection: false,
    ...start(),
    ...readDraft(key),
    // Chosen just now, on the way here.
    ...(variantId === undefined ? {} : { variantId }),
  }));
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(draft)), [draft, key]);
  const change = useCallback((part: Partial<Draft>) => setDraft((last) => ({ ...last, ...part })), []);
  const answer = useCallback(
    (id: string, value: string) =>
      setDraft((last) => {
        const { [id]: _, ...from } = last.from;
        return { ...last, answers: { ...last.answers, [id]: value }, from };
      }),
    [],
  );
  /** The schedule answers for itself, until somebody says otherwise. */
  const pipe = useCallback(
    (pipes: string) =>
      setDraft((last) => {
        const told = answersOfPipes(procedure, pipes);
        const own = Object.fromEntries(
          Object.entries(told).filter(([id]) => (last.answers[id] ?? '') === '' || last.from[id] !== undefined),
        );
        return { ...last, pipes, answers: { ...last.answers, ...own }, from: { ...last.from, ...all(own, 'schedule') } };
      }),
    [procedure],
  );
  return { draft, change, answer, pipe, copy: change, forget: () => sessionStorage.removeItem(key) };
}
