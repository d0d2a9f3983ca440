import type {
  Boundary,
  CheckPhase,
  Conclusion,
  Condition,
  HoldPhase,
  MeasurePhase,
  ObservePhase,
  PartGiven,
  Phase,
  ZeroPhase,
} from '../course/phases';
import type { LimitKind, OutcomeOf } from '../limits';
import type { ConclusionCode } from './conclusions';
import * as shapes from './phase-shapes';
import type { Course, Figure, Parameter, Procedure, Task } from './procedure';

/**
 * The card of a procedure names its phases and what each can come to, so that a course which names another does not compile.
 * What a card gives are the shapes of phases, bound to its names.
 */

/**
 * A list, a zero, a kind of limit, or the outcomes by name: of a look, or of a limit whose bands the procedure names. A kind among
 * the names stands for its outcomes, where answers choose between limits.
 */
type Named = 'check' | 'zero' | LimitKind | readonly string[];
type Phases = Readonly<Record<string, Named>>;

/** Beside those of its own, a hold can come to these. */
type Always = 'void' | 'not-reached' | 'left';

type Came<V> = V extends readonly (infer O extends string)[]
  ? O extends LimitKind
    ? OutcomeOf<O> | Always
    : O
  : V extends 'check'
    ? 'done'
    : V extends 'zero'
      ? 'zeroed'
      : V extends LimitKind
        ? OutcomeOf<V> | Always
        : never;

export type Id<P> = keyof P & string;
type OutcomesIn<P, I extends Id<P>> = I extends unknown ? Came<P[I]> : never;

/** What a fault may show: of the looks that a card names, one of their answers. */
export type SeenIn<P> = { readonly [I in Id<P> as P[I] extends readonly string[] ? I : never]?: Came<P[I]> };

/** What a procedure says beside its course; the phases that its tasks name are the card's. */
export type Sheet<P> = Pick<Procedure, 'kit' | 'cautions' | 'evidence' | 'means' | 'round' | 'guide'> & {
  readonly tasks: readonly (Omit<Task, 'phases' | 'holds'> & { readonly phases?: readonly Id<P>[]; readonly holds?: readonly Id<P>[] })[];
};

type ConditionIn<P> =
  | { [I in Id<P>]: { readonly phase: I; readonly outcome: readonly Came<P[I]>[] } }[Id<P>]
  | { readonly phase: Id<P>; readonly begunBefore: true }
  | Extract<Condition, { signal: unknown } | { conclusion: unknown }>;
export type WhenIn<P> = readonly (readonly ConditionIn<P>[])[];

/** A phase as a card knows it: every id that it names is one of the card's. */
type In<F extends Phase, P> = Omit<F, 'id' | 'when' | 'restartFrom' | 'afterRise' | 'valve' | 'under' | 'alongside'> & {
  readonly id: Id<P>;
  readonly when: WhenIn<P>;
} & (F extends { readonly restartFrom: string } ? { readonly restartFrom: Id<P> } : { readonly restartFrom?: Id<P> }) & {
    readonly afterRise?: Id<P>;
    readonly valve?: readonly Id<P>[];
    readonly under?: Omit<NonNullable<HoldPhase['under']>, 'phase'> & { readonly phase: Id<P> };
    readonly alongside?: Id<P>;
  };
export type PhaseIn<P> = In<CheckPhase, P> | In<ZeroPhase, P> | In<HoldPhase, P> | In<ObservePhase, P> | In<MeasurePhase, P>;

/** With what most phases share left out. */
type Given<F extends Phase, P> = Omit<In<F, P>, 'kind' | 'cautions' | 'when' | 'closing'> & {
  readonly cautions?: readonly string[];
  readonly when?: WhenIn<P>;
};

// A type and no interface: one of fewer names is one of more, and an interface is compared by its names alone.
export type ConclusionIn<P> = Omit<Conclusion, 'when' | 'reason' | 'about'> & {
  readonly when: WhenIn<P>;
  readonly reason: ConclusionCode;
  readonly about?: Id<P>;
};

/** A part of what is tested, its phases the card's. */
export type PartIn<P> = Omit<PartGiven, 'phase' | 'orBy' | 'letBys' | 'supply' | 'airBy'> & {
  readonly phase: Id<P>;
  readonly orBy?: readonly Id<P>[];
  readonly letBys?: readonly Id<P>[];
  readonly supply?: { readonly value: string; readonly phase: Id<P> };
  readonly airBy?: Id<P>;
};

interface CourseIn<P> extends Omit<Course, 'phases' | 'conclusions' | 'boundaries' | 'judgedBy' | 'sees'> {
  readonly sees: readonly PartIn<P>[];
  readonly phases: readonly PhaseIn<P>[];
  readonly conclusions: readonly ConclusionIn<P>[];
  readonly boundaries: readonly (Omit<Boundary, 'provedBy'> & { readonly provedBy?: WhenIn<P> })[];
  readonly judgedBy: Id<P>;
}

type Looks = Partial<Pick<ObservePhase, 'cautions' | 'afterStop' | 'picture'>>;

export interface Card<P extends Phases> {
  readonly names: P;
  readonly after: <I extends Id<P>>(phase: I, ...outcome: readonly OutcomesIn<P, I>[]) => WhenIn<P>;
  /** One condition of a `when`. */
  readonly on: <I extends Id<P>>(phase: I, ...outcome: readonly OutcomesIn<P, I>[]) => ConditionIn<P>;
  readonly conclude: (conclusion: ConclusionIn<P>) => ConclusionIn<P>;
  readonly checkPhase: (phase: Given<CheckPhase, P> & { readonly closing?: boolean }) => In<CheckPhase, P>;
  readonly zeroPhase: (phase: Given<ZeroPhase, P>) => In<ZeroPhase, P>;
  readonly holdPhase: (phase: Given<HoldPhase, P>) => In<HoldPhase, P>;
  readonly observePhase: (phase: Given<ObservePhase, P>) => In<ObservePhase, P>;
  readonly measurePhase: (phase: Given<MeasurePhase, P>) => In<MeasurePhase, P>;
  readonly look: <I extends Id<P>>(
    id: I,
    title: string,
    say: string,
    options: readonly (readonly [id: OutcomesIn<P, I>, label: string])[],
    more?: Looks & { readonly when?: WhenIn<P> },
  ) => In<ObservePhase, P>;
  readonly soapTheRig: <A extends Id<P>>(
    id: Id<P>,
    after: A,
    say: string,
    outcome?: readonly OutcomesIn<P, A>[],
    by?: 'bubbles' | 'water',
  ) => In<ObservePhase, P>;
  readonly getReady: (...given: Parameters<typeof shapes.getReady>) => In<CheckPhase, P>;
  readonly zeroGauge: (...given: Parameters<typeof shapes.zeroGauge>) => In<ZeroPhase, P>;
  readonly restoreList: (...given: Parameters<typeof shapes.restoreList>) => In<CheckPhase, P>;
  readonly makeSafeList: (...given: Parameters<typeof shapes.makeSafeList>) => In<CheckPhase, P>;
  readonly smellOfGas: (...given: Parameters<typeof shapes.smellOfGas>) => In<CheckPhase, P>;
  /** A whole course, every id of which is the card's. */
  readonly course: (course: CourseIn<P>) => Course;
}

/** Names a procedure's phases, in trade order. The shapes that it gives are the plain ones: names are proved where they are written. */
export const cardOf = <const P extends Phases>(names: P): Card<P> =>
  ({
    names,
    ...shapes,
    on: (phase: string, ...outcome: readonly string[]) => ({ phase, outcome }),
    conclude: (conclusion: unknown) => conclusion,
    course: (course: unknown) => course,
  }) as unknown as Card<P>;

/** Ids of questions and figures, as they stand in a procedure's lists. */
export type IdsOf<L extends readonly { readonly id: string }[]> = L[number]['id'];
export type Asked = readonly Parameter[];
export type Figures = readonly Figure[];
