/** How much a finding weighs: `override` beats every gauge, `invalid` beats what the gauge said, `note` changes nothing. */
export const weights = ['override', 'invalid', 'fail', 'restricted', 'inconclusive', 'pass', 'note'] as const;
export type Weight = (typeof weights)[number];

export type Data = Readonly<Record<string, string>>;

/**
 * One thing that can be found: how much it weighs, its sentence, and the sum behind it. Both are rendered from the data when
 * somebody reads; what is signed and sealed is the code and its data.
 */
export interface Reason<D extends Data = never> {
  readonly weight: Weight;
  readonly say: (data: D) => string;
  /** The arithmetic, opened on request. */
  readonly working?: (data: D) => readonly string[];
  /** Asks something of whoever stands at the gauge, and is said the moment it is found. */
  readonly atOnce?: true;
}

/** A reason whose sentence takes these figures. */
export const reason = <K extends string = never>(
  weight: Weight,
  say: (data: Readonly<Record<K, string>>) => string,
  working?: (data: Readonly<Record<K, string>>) => readonly string[],
): Reason<Readonly<Record<K, string>>> => ({ weight, say, working });

/** One that is said the moment it is found. */
export const atOnce = <R extends Reason>(said: R): R => ({ ...said, atOnce: true });

/** A code with its figures: what a judgement holds, and what signatures bind. */
export interface Finding {
  readonly code: string;
  readonly weight: Weight;
  readonly data: Data;
  /** The phase that it speaks of. */
  readonly phase?: string;
}

export type Sayings = Readonly<Record<string, Reason>>;
type DataOf<R> = R extends Reason<infer D> ? D : never;

/** Makes findings of one list of reasons: a code that is not on it, or a figure that its sentence needs and lacks, does not compile. */
export const finder =
  <S extends Sayings>(sayings: S) =>
  <C extends keyof S & string>(code: C, data: DataOf<S[C]>, phase?: string): Finding => ({
    code,
    weight: sayings[code].weight,
    data,
    phase,
  });
