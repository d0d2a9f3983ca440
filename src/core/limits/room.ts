import { type Fields, is, type Shape, shape, type Whole } from '../exact/shape';
import { negate, subtract, toText, type Unit, unitLabel } from '../quantities';
import { timeText } from './compare';
import type { HoldFacts, MeasureFacts } from './facts';
import type { Data, Finding, Reason } from './say';
import type { Contents, Drift, Sight } from './sight';

/**
 * What an outcome does: it leads on, proves what was to be proved, fails, or spoils the round, which then proves nothing and
 * may be done again.
 */
export type Effect = 'leads on' | 'proves' | 'fails' | 'spoils';

/** What a limit makes of the facts. */
export interface Verdict<O extends string = string> {
  readonly outcome: O;
  readonly effect: Effect;
  /** Figures that conclusions and papers speak of. */
  readonly data: Data;
  readonly findings: readonly Finding[];
  /** The fall that temperature and barometer leave, where they were read. */
  readonly corrected?: string;
}

/** A line that a picture of the phase draws: at a figure of the hold's unit, or at so much above or below its start. */
export interface LimitLine {
  readonly at: number;
  readonly of: 'start' | 'zero';
  readonly label: string;
  readonly decides: boolean;
  readonly side: 'above' | 'below';
}

/** What drawing needs to know of a hold beside its limit. */
export interface Drawn {
  readonly seconds: number;
  readonly unit: Unit;
}

// Its functions are written as methods: a list of rooms of several kinds is then a list of rooms, and a limit is handed to the one of its own kind.
interface Common<K extends string, L, O extends string, C extends string> {
  readonly kind: K;
  /** Its figures decide the test; one that does not only lets the next phase begin. */
  readonly decides: boolean;
  /** The limit's own fields: the type and what the reader lets through. */
  readonly schema: Shape<L>;
  /** What is said of it. */
  readonly says: Readonly<Record<C, Reason>>;
  /** What it comes to when all goes well. */
  hoped(limit: L): string;
  /** Every outcome that it can have. */
  outcomes(limit: L): readonly O[];
  /** The rule in a sentence; `unit` is that of the phase. */
  words(limit: L, unit: string): string;
  /** The rule in a few words, for a line of a phone; the sentence where there are none. */
  short?(limit: L): string;
  /** The figure that it permits, where one figure says it all. */
  permits?(limit: L): { readonly figure: string; readonly unit: Unit };
  /** The arithmetic behind what it came to. */
  sum?(data: Data): readonly string[];
  /** A line of the paper for a round that is over, in the instrument's own unit; the phase's title stands beside it. */
  readonly reports: (data: Data) => string;
  /** What it came to in large figures, the one that decides first, each with what it is held against. */
  readonly figures: (data: Data) => readonly Figure[];
}

/** A figure as a paper shows it large. */
export interface Figure {
  readonly label: string;
  readonly value: string;
  readonly unit: string;
  /** What it is held against, in a few words. */
  readonly beside?: string;
}

/** Points that are read at one pressure, as what they can see needs them. */
export interface SightedPoints {
  readonly contents: Contents;
  /** Pressure at which they are read, Pa gauge, and the finest steps of gauge and measure, in SI. */
  readonly at: number;
  readonly gaugeStep: number;
  readonly step: number;
  readonly warms: Drift;
}

/** Everything that is known of one kind of limit on a hold. */
export interface HoldRoom<K extends string = string, L = unknown, O extends string = string, C extends string = string>
  extends Common<K, L, O, C> {
  readonly judges: 'hold';
  judge(limit: L, facts: HoldFacts): Verdict;
  /** What two rounds that do not count by themselves say together; undefined where they do not agree (DOMAIN 4.22). */
  agree?(limit: L, one: HoldFacts, other: HoldFacts): Verdict | undefined;
  /** The movement that it calls perceptible, in the hold's unit. */
  threshold?(limit: L): string;
  /**
   * The movement from which it calls a fall a leak, in SI of the hold's unit: what its sight begins with (DOMAIN 3.3); `permitted` asks
   * for the fall that it lets pass beyond that. `start` is the pressure that it begins at, in SI. None where it clears nothing.
   */
  leakFrom?(limit: L, drawn: Drawn & { readonly start: number }, permitted?: boolean): number;
  lines(limit: L, drawn: Drawn): readonly LimitLine[];
  /** How far an axis reaches below and above the start, so that a movement at the limit is seen. */
  reach?(limit: L, drawn: Drawn, start: number): readonly [low: number, high: number] | undefined;
}

/** Everything that is known of one kind of limit on figures that are read at points. */
export interface MeasureRoom<K extends string = string, L = unknown, O extends string = string, C extends string = string>
  extends Common<K, L, O, C> {
  readonly judges: 'points';
  judge(limit: L, facts: MeasureFacts): Verdict;
  /** What its figures can see; none where it clears nothing. */
  sight?(limit: L, points: SightedPoints): Sight;
}

type WithKind<K extends string, F extends Fields> = Whole<F> & { readonly kind: K };

/** A room's schema from its fields. */
export const limitShape = <K extends string, F extends Fields>(kind: K, fields: F): Shape<WithKind<K, F>> =>
  shape({ kind: is(kind), ...fields }) as Shape<WithKind<K, F>>;

export const holdRoom = <K extends string, F extends Fields, const O extends string, const C extends string>(
  kind: K,
  fields: F,
  room: Omit<HoldRoom<K, WithKind<K, F>, O, C>, 'kind' | 'schema' | 'judges'>,
): HoldRoom<K, WithKind<K, F>, O, C> => ({ kind, schema: limitShape(kind, fields), judges: 'hold', ...room });

export const measureRoom = <K extends string, F extends Fields, const O extends string, const C extends string>(
  kind: K,
  fields: F,
  room: Omit<MeasureRoom<K, WithKind<K, F>, O, C>, 'kind' | 'schema' | 'judges'>,
): MeasureRoom<K, WithKind<K, F>, O, C> => ({ kind, schema: limitShape(kind, fields), judges: 'points', ...room });

/** The figures of a hold that sentences take, whatever judges it. */
export function holdData(facts: HoldFacts) {
  const fall = subtract(facts.start.value, facts.end.value);
  return {
    title: facts.title,
    time: timeText(facts.seconds),
    start: toText(facts.start.value),
    end: toText(facts.end.value),
    unit: unitLabel(facts.unit),
    fall: toText(fall),
    rise: toText(negate(fall)),
    limitUnit: unitLabel(facts.limitUnit),
    seconds: String((facts.end.at - facts.start.at) / 1000),
  };
}

/** A limit without the noughts that nobody wrote. */
export const plain = (figure: string | undefined): string =>
  (figure ?? '').includes('.') ? (figure ?? '').replace(/\.?0+$/, '') : (figure ?? '');

const isRise = (d: Data): boolean => (d.fall ?? '').startsWith('-');

/** The paper's line of a hold. */
export const heldLine = (d: Data): string =>
  `${d.start} to ${d.end} ${d.unit} in ${d.time}, ${isRise(d) ? `rise ${(d.fall ?? '').slice(1)}` : `fall ${d.fall}`} ${d.unit}`;

/** The large figures of a hold: how it moved, held against `beside`, and over which time from which reading. */
export const heldFigures = (d: Data, beside: string): readonly Figure[] => [
  isRise(d)
    ? { label: 'Rise', value: (d.fall ?? '').slice(1), unit: d.unit ?? '', beside }
    : { label: 'Fall', value: d.fall ?? '', unit: d.unit ?? '', beside },
  { label: 'Held', value: d.time ?? '', unit: '' },
  { label: 'From', value: d.start ?? '', unit: d.unit ?? '' },
  { label: 'To', value: d.end ?? '', unit: d.unit ?? '' },
];

export const bandsText = (steps: readonly { readonly below: string; readonly outcome: string }[], beyond: string, unit: string): string => {
  const words = steps.map(
    ({ below, outcome }, index) => `${index === 0 ? 'Under' : 'under'} ${below} ${unit} ${outcome.replaceAll('-', ' ')}`,
  );
  return `${[...words, `from there ${beyond.replaceAll('-', ' ')}`].join(', ')}.`;
};

/** A hold that was ended before its time and failed nothing. */
export const stoppedBefore = (verdict: Verdict, facts: HoldFacts): Verdict =>
  facts.stopped && verdict.effect !== 'fails' ? { ...verdict, outcome: 'stopped', effect: 'spoils', findings: [] } : verdict;
