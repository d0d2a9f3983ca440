import { decimalText, may, shape } from '../exact/shape';
import { add, compare, type Decimal, decimal, multiply, negate, round, subtract, toNumber, toSi, toText, unitLabel } from '../quantities';
import { compareAcross, lateToleranceMs, timeText } from './compare';
import { type CorrectedFall, correctedBy, correctionData } from './correction';
import type { HoldFacts } from './facts';
import { isSlight, riseOf } from './no-rise';
import { type Effect, heldFigures, heldLine, holdData, holdRoom, plain } from './room';
import { atOnce, type Finding, finder, reason } from './say';
import type { Sample } from './stood';

type Moved = 'title' | 'start' | 'end' | 'fall' | 'unit' | 'threshold' | 'limitUnit';
type Sum = Readonly<Record<Moved, string>>;

const sum = (d: Sum): readonly string[] => [
  `${d.start} − ${d.end} = ${d.fall} ${d.unit}`,
  `Perceptible from ${d.threshold} ${d.limitUnit}`,
];
const correctedSum = (d: Readonly<Record<Moved | 'corrected' | 'doubt' | 'conditions', string>>): readonly string[] => [
  ...sum(d),
  `With no leak, ${d.conditions}: (start + atmosphere) × T₂/T₁ − atmosphere; against that the gauge fell ${d.corrected} ${d.unit}, give or take ${d.doubt}`,
];

const says = {
  'hold-rise': atOnce(
    reason<Moved | 'rise' | 'cause' | 'again'>(
      'inconclusive',
      (d) => `The gauge rose ${d.rise} ${d.unit} during ${d.title}. Likely cause: ${d.cause}. ${d.again}`,
      sum,
    ),
  ),
  'hold-touched': reason<'title' | 'lowest' | 'end' | 'unit'>(
    'inconclusive',
    (d) =>
      `During ${d.title} the gauge stood at ${d.lowest} ${d.unit}, over the limit, and came back to ${d.end}: it was fed or touched. Find out why, and repeat.`,
  ),
  'hold-flickered': reason<'title' | 'lowest' | 'unit'>(
    'note',
    (d) => `During ${d.title} the gauge stood at ${d.lowest} ${d.unit} for a moment; it came back by a step at most, and the end decides.`,
  ),
  'hold-fed': reason<'title' | 'rise' | 'unit' | 'feedsTo' | 'limitUnit'>(
    'note',
    (d) => `${d.title}: the pressure rose ${d.rise} ${d.unit}, to ${d.feedsTo} ${d.limitUnit} or more: most of the way to lock-up.`,
  ),
  'rise-noted': reason<'title' | 'rise' | 'unit' | 'noted' | 'limitUnit'>(
    'note',
    (d) => `${d.title}: the pressure rose ${d.rise} ${d.unit}, less than ${d.noted} ${d.limitUnit}, as gas that warms does.`,
  ),
  'let-by-hides': reason<'title' | 'fall' | 'unit' | 'letByFall' | 'letByTime' | 'needed'>(
    'inconclusive',
    (d) =>
      `During the let-by the gauge fell ${d.letByFall} ${d.unit} in ${d.letByTime}; ${d.title} fell ${d.fall}, and at that pace it had to fall ${d.needed} at least. A valve may feed it: do the let-by again.`,
  ),
  'late-fall': atOnce(
    reason<'title' | 'late' | 'fall' | 'unit'>(
      'inconclusive',
      (d) =>
        `The end reading of ${d.title} came ${d.late} s late and shows a fall of ${d.fall} ${d.unit}; in the right time it may have been less. Repeat the hold.`,
    ),
  ),
  'over-by-due': reason<'title' | 'lowest' | 'unit'>(
    'note',
    (d) => `The end of ${d.title} came late, but by its due time the gauge already stood at ${d.lowest} ${d.unit}, over the limit.`,
  ),
  interpolated: reason<'title' | 'fall' | 'unit'>(
    'note',
    (d) => `The fall of ${d.title} at its due time, ${d.fall} ${d.unit}, comes from the readings on either side of it.`,
  ),
  'slight-fall': reason<'title' | 'fall' | 'unit'>(
    'inconclusive',
    (d) =>
      `${d.title}: the gauge fell ${d.fall} ${d.unit}, which a third of a degree makes too. Repeat it with the pipe’s temperature at both ends, or let the meter’s dial tell.`,
  ),
  'falls-agree': reason<'title' | 'one' | 'other' | 'unit'>(
    'note',
    (d) =>
      `Two rounds of ${d.title} that do not count by themselves fell ${d.one} and ${d.other} ${d.unit} when taken down to the due time: over the limit, and alike. A leak does not tire, so this is a fall.`,
  ),
  corrected: reason<Moved | 'corrected' | 'doubt' | 'conditions'>(
    'note',
    (d) => `${d.title}: raw fall ${d.fall} ${d.unit}, corrected ${d.corrected} ${d.unit} (${d.conditions}; give or take ${d.doubt}).`,
    correctedSum,
  ),
  'corrected-fall': reason<Moved | 'corrected' | 'doubt' | 'conditions'>(
    'note',
    (d) =>
      `${d.title}: the gauge fell only ${d.fall} ${d.unit}, but what was read of the weather hides a fall: corrected it is ${d.corrected} ${d.unit} (${d.conditions}).`,
    correctedSum,
  ),
  'correction-unsure': reason<Moved | 'corrected' | 'doubt' | 'conditions'>(
    'inconclusive',
    (d) =>
      `${d.title}: raw movement ${d.fall} ${d.unit}, corrected ${d.corrected} ${d.unit}, which may be off by ${d.doubt} (${d.conditions}). The ${d.threshold} ${d.limitUnit} that must be told cannot be: wait for a steady temperature and repeat.`,
    correctedSum,
  ),
  'conditions-unread': reason<'title' | 'missing'>(
    'inconclusive',
    (d) => `${d.title} needs ${d.missing}; without that a leak and a change of weather cannot be told apart.`,
  ),
} as const;
const find = finder(says);

interface Limit {
  readonly threshold: string;
  readonly permitted?: string;
  readonly slight?: string;
  readonly rise?: { readonly noted: string; readonly feedsTo: string };
}

const reaches = (facts: HoldFacts, movement: Decimal, limit: string): boolean =>
  compareAcross(movement, facts.unit, decimal(limit), facts.limitUnit) >= 0;

/** Whether a fall can be perceived and nothing permits it. */
const isOver = (facts: HoldFacts, { threshold, permitted }: Limit, fall: Decimal): boolean =>
  reaches(facts, fall, threshold) && (permitted === undefined || compareAcross(fall, facts.unit, decimal(permitted), facts.limitUnit) > 0);

type Outcome = 'slight' | 'tight' | 'permitted' | 'fall' | 'rise' | 'fed' | 'late' | 'touched' | 'hidden' | 'unsure' | 'unread' | 'stopped';
const effects: Readonly<Record<Outcome, Effect>> = {
  slight: 'spoils',
  tight: 'proves',
  permitted: 'proves',
  fall: 'fails',
  rise: 'spoils',
  /** The shut supply feeds it: a conclusion says what that means. */
  fed: 'leads on',
  late: 'spoils',
  touched: 'spoils',
  hidden: 'spoils',
  unsure: 'spoils',
  unread: 'spoils',
  stopped: 'spoils',
};

interface Said {
  readonly outcome: Outcome;
  readonly fall?: Decimal;
  readonly findings: readonly Finding[];
}

/**
 * A fall at or above the threshold is perceptible; one up to and including `permitted` has its own outcome. Where a rise has
 * rules of its own, one under `noted` is only said, and an end at `feedsTo` or above means that the supply passes.
 */
export const noFall = holdRoom(
  'no-fall',
  {
    threshold: decimalText,
    permitted: may(decimalText),
    slight: may(decimalText),
    rise: may(shape({ noted: decimalText, feedsTo: decimalText })),
  },
  {
    decides: true,
    says,
    sum: (data) => ((data.conditions ?? '') === '' ? sum(data as never) : correctedSum(data as never)),
    hoped: () => 'tight',
    outcomes: ({ permitted, slight, rise }) => [
      'tight',
      ...(permitted === undefined ? [] : (['permitted'] as const)),
      'fall',
      ...(slight === undefined ? [] : (['slight'] as const)),
      ...(rise === undefined ? [] : (['fed'] as const)),
      ...(['rise', 'late', 'touched', 'hidden', 'unsure', 'unread', 'stopped'] as const),
    ],
    judge: (limit, facts) => {
      const correction = correctedBy(facts);
      const plain = { ...holdData(facts), threshold: limit.threshold, permitted: limit.permitted ?? '0' };
      const found = correction.kind === 'differs' ? correction : correction.kind === 'raw' ? correction.corrected : undefined;
      const data = {
        ...plain,
        ...(found === undefined
          ? { conditions: '', corrected: plain.fall, doubt: '0', how: '' }
          : {
              ...correctionData(found),
              how: toText(found.fall) === plain.fall ? '' : ` (${toText(found.fall)} ${plain.unit} when corrected)`,
            }),
      };
      const said =
        correction.kind === 'unread'
          ? ({
              outcome: 'unread',
              findings: [find('conditions-unread', { title: facts.title, missing: correction.missing })],
            } satisfies Said)
          : correction.kind === 'differs'
            ? byWeather(limit, facts, correction, data)
            : byGauge(limit, facts, data, correction.corrected);
      const whole = hiddenByLetBy(facts, data, said);
      const outcome: Outcome = facts.stopped && effects[whole.outcome] !== 'fails' ? 'stopped' : whole.outcome;
      return {
        outcome,
        effect: effects[outcome],
        data: whole.fall === undefined ? data : { ...data, fall: toText(whole.fall) },
        findings: outcome === 'stopped' ? [] : whole.findings,
        corrected: found === undefined ? undefined : toText(found.fall),
      };
    },
    agree: (limit, one, other) => {
      const falls = [one, other].map(atDuePace);
      const [first, second] = falls;
      if (!falls.every((fall) => isOver(other, limit, fall))) return undefined;
      const two = decimal('2');
      if (compare(first, multiply(second, two)) > 0 || compare(second, multiply(first, two)) > 0) return undefined;
      const data = {
        ...holdData(other),
        threshold: limit.threshold,
        permitted: limit.permitted ?? '0',
        conditions: '',
        corrected: '',
        doubt: '0',
        how: '',
      };
      return {
        outcome: 'fall',
        effect: 'fails',
        data,
        findings: [find('falls-agree', { ...data, one: toText(first), other: toText(second) })],
      };
    },
    short: ({ threshold, permitted }) => (permitted === undefined ? `limit ${threshold}` : `permitted ${permitted}, pipework ${threshold}`),
    words: ({ threshold, permitted }, unit) =>
      permitted === undefined
        ? `No perceptible fall: ${threshold} ${unit} or more counts.`
        : `A fall from ${threshold} up to and including ${permitted} ${unit} is permitted; more counts.`,
    threshold: ({ threshold }) => threshold,
    leakFrom: ({ threshold, permitted }, { unit }, asked) => toSi(Number(asked === true ? (permitted ?? threshold) : threshold), unit),
    lines: ({ threshold, permitted }) => [
      { at: -Number(permitted ?? threshold), of: 'start', label: 'floor', decides: true, side: 'below' },
      ...(permitted === undefined
        ? []
        : [{ at: -Number(threshold), of: 'start' as const, label: 'perceptible', decides: false, side: 'below' as const }]),
    ],
    reach: ({ threshold, permitted }, _, start) => [
      start - Math.max(Number(permitted ?? threshold), Number(threshold)) * 1.6,
      start + Number(threshold) * 2.4,
    ],
    reports: (d) => `${heldLine(d)}${d.how ?? ''}`,
    figures: (d) => [
      ...heldFigures(
        d,
        Number(d.permitted) > 0
          ? `permitted up to ${plain(d.permitted)} ${d.limitUnit}`
          : `none is permitted; it shows from ${plain(d.threshold)} ${d.limitUnit}`,
      ),
      ...((d.how ?? '') === ''
        ? []
        : [{ label: 'Corrected', value: d.corrected ?? '', unit: d.unit ?? '', beside: `give or take ${d.doubt}` }]),
    ],
  },
);

type HeldData = ReturnType<typeof holdData> & {
  readonly threshold: string;
  readonly corrected: string;
  readonly doubt: string;
  readonly conditions: string;
};

const againWords = (facts: HoldFacts): string => (facts.risesFurther ? 'Repeat from the let-by test.' : 'Repeat the hold.');

/** A fall, less what the weather explains of it, taken down to the due time where it was read later: fall × due / taken. */
function atDuePace(facts: HoldFacts): Decimal {
  const weather = correctedBy(facts);
  const raw = subtract(facts.start.value, facts.end.value);
  const fall = weather.kind === 'differs' ? subtract(weather.fall, weather.doubt) : raw;
  const taken = facts.end.at - facts.start.at;
  const due = facts.seconds * 1000;
  if (taken <= due) return fall;
  const scale = facts.step.scale + 1;
  const fine = round(fall, scale, 'down');
  return { digits: (fine.digits * BigInt(due)) / BigInt(taken), scale };
}

/** A warming pipe is named only where its temperatures were read; it never makes the rise count for less. */
function causeOfRise({ conditions: { pipe } }: HoldFacts): string {
  if (pipe === undefined || toSi(Number(pipe.end.value), pipe.end.unit) <= toSi(Number(pipe.start.value), pipe.start.unit))
    return 'a valve letting by, sun or a warming pipe';
  return `the pipe warmed from ${pipe.start.value} to ${pipe.end.value} ${unitLabel(pipe.end.unit)}; a valve that lets by cannot be told from that`;
}

/** The raw movement decides. */
function byGauge(limit: Limit, facts: HoldFacts, data: HeldData, found: CorrectedFall | undefined): Said {
  const fall = subtract(facts.start.value, facts.end.value);
  const over = (moved: Decimal) => isOver(facts, limit, moved);
  const noted: Finding[] = [];
  const outcomeOf = (moved: Decimal): Outcome => (over(moved) ? 'fall' : reaches(facts, moved, limit.threshold) ? 'permitted' : 'tight');
  const lateMs = facts.end.at - facts.dueAt;
  if (over(fall)) {
    if (facts.stopped || lateMs <= lateToleranceMs(facts.seconds))
      // Without temperatures a third of a degree and a small leak look alike.
      return facts.conditions.pipe === undefined && isSlight(facts, fall, limit.slight)
        ? { outcome: 'slight', findings: [find('slight-fall', data)] }
        : { outcome: 'fall', findings: noted };
    // In the right time it may have been less (DOMAIN 4.3), unless something read by then already tells.
    const { lowest } = facts.stood(facts.dueAt);
    if (over(subtract(facts.start.value, lowest)))
      return { outcome: 'fall', findings: [find('over-by-due', { ...data, lowest: toText(lowest) })] };
    if (facts.atDue === undefined)
      return { outcome: 'late', findings: [find('late-fall', { ...data, late: String(Math.round(lateMs / 1000)) })] };
    const atDue = subtract(facts.start.value, facts.atDue);
    return { outcome: outcomeOf(atDue), fall: atDue, findings: [find('interpolated', { ...data, fall: toText(atDue) })] };
  }
  const stood = facts.stood(facts.end.at);
  const slack = found?.slack ?? decimal('0');
  const dip = touched(limit, facts, add(stood.lowest, slack), data);
  if (dip?.outcome === 'touched') return dip;
  if (dip !== undefined) noted.push(...dip.findings);
  const rise = riseOf(facts, { ...stood, rise: subtract(stood.rise, slack) });
  if (reaches(facts, rise, limit.threshold)) {
    const risen = { ...data, rise: toText(rise) };
    const rules = limit.rise;
    if (rules !== undefined && compareAcross(facts.end.value, facts.unit, decimal(rules.feedsTo), facts.limitUnit) >= 0)
      return { outcome: 'fed', findings: [...noted, find('hold-fed', { ...risen, feedsTo: rules.feedsTo })] };
    if (rules === undefined || reaches(facts, rise, rules.noted))
      return {
        outcome: 'rise',
        findings: [...noted, find('hold-rise', { ...risen, cause: causeOfRise(facts), again: againWords(facts) })],
      };
    noted.push(find('rise-noted', { ...risen, noted: rules.noted }));
  }
  // What was read of the weather is too little to decide by, but not too little to doubt by: it shows a fall that the gauge does not.
  if (found !== undefined && over(found.fall)) return { outcome: 'unsure', findings: [...noted, find('correction-unsure', data)] };
  return { outcome: outcomeOf(fall), findings: noted };
}

/** The corrected movement speaks too (DOMAIN 4.6). */
function byWeather(limit: Limit, facts: HoldFacts, { fall: found, doubt, coarse, slack }: CorrectedFall, data: HeldData): Said {
  const raw = subtract(facts.start.value, facts.end.value);
  const over = (moved: Decimal) => isOver(facts, limit, moved);
  const unsure: Said = { outcome: 'unsure', findings: [find('correction-unsure', data)] };
  const lateMs = facts.end.at - facts.dueAt;
  const late = !facts.stopped && lateMs > lateToleranceMs(facts.seconds);
  if (over(subtract(found, doubt)))
    return late
      ? { outcome: 'late', findings: [find('late-fall', { ...data, fall: toText(found), late: String(Math.round(lateMs / 1000)) })] }
      : coarse
        ? unsure
        : { outcome: 'fall', findings: [find(over(raw) ? 'corrected' : 'corrected-fall', data)] };
  // In between, what the weather alone may have moved is allowed for: how it went is not known.
  const stood = facts.stood(facts.end.at);
  const end: Sample = { at: facts.end.at, value: subtract(facts.start.value, found) };
  const dip = touched(limit, { ...facts, end }, add(stood.lowest, slack), data);
  if (dip?.outcome === 'touched') return dip;
  const noted = [find('corrected', data), ...(dip?.findings ?? [])];
  const inside = subtract(stood.rise, slack);
  const rise = compare(inside, facts.step) > 0 && compare(inside, negate(found)) > 0 ? inside : negate(found);
  if (reaches(facts, rise, limit.threshold))
    return {
      outcome: 'rise',
      findings: [
        ...noted,
        find('hold-rise', {
          ...data,
          rise: toText(rise),
          cause: 'a valve letting by or sun, beyond what temperature explains',
          again: againWords(facts),
        }),
      ],
    };
  // Too coarse a thermometer clears no fall that the gauge shows.
  if (over(raw) && coarse) return unsure;
  const most = add(found, doubt);
  if (!reaches(facts, most, limit.threshold)) return { outcome: 'tight', findings: noted };
  if (!reaches(facts, raw, limit.threshold) && !reaches(facts, found, limit.threshold)) return { outcome: 'tight', findings: noted };
  if (limit.permitted !== undefined && !over(most) && !over(raw)) return { outcome: 'permitted', findings: noted };
  return unsure;
}

/** A reading inside that reached the limit and came back: by a step or a fifth of the threshold at most a flicker, else fed or touched (DOMAIN 4.20). */
function touched(limit: Limit, facts: HoldFacts, lowest: Decimal, data: HeldData): Said | undefined {
  if (!isOver(facts, limit, subtract(facts.start.value, lowest)) || isOver(facts, limit, subtract(facts.start.value, facts.end.value)))
    return undefined;
  const back = subtract(facts.end.value, lowest);
  const about = { ...data, lowest: toText(lowest) };
  const flicker =
    compare(back, facts.step) <= 0 ||
    compareAcross(multiply(back, decimal('5')), facts.unit, decimal(limit.threshold), facts.limitUnit) <= 0;
  return flicker
    ? { outcome: 'tight', findings: [find('hold-flickered', about)] }
    : { outcome: 'touched', findings: [find('hold-touched', about)] };
}

/**
 * After a let-by that fell, a hold of the same pipework must fall by at least (let-by fall − a step) × hold time / let-by time
 * − a step; if it stands, or falls slower, a valve may feed it (DOMAIN 4.21).
 */
function hiddenByLetBy(facts: HoldFacts, data: HeldData, said: Said): Said {
  const { letBy, step } = facts;
  if (letBy === undefined || effects[said.outcome] !== 'proves') return said;
  const fall = subtract(facts.start.value, facts.end.value);
  const seconds = (value: number): Decimal => ({ digits: BigInt(Math.round(value * 1000)), scale: 3 });
  const held = seconds((facts.end.at - facts.start.at) / 1000);
  const beside = seconds(letBy.seconds);
  if (compare(multiply(add(fall, step), beside), multiply(subtract(letBy.fall, step), held)) >= 0) return said;
  const needed = (toNumber(subtract(letBy.fall, step)) * toNumber(held)) / letBy.seconds - toNumber(step);
  return {
    outcome: 'hidden',
    findings: [
      ...said.findings,
      find('let-by-hides', {
        ...data,
        letByFall: toText(letBy.fall),
        letByTime: timeText(letBy.seconds),
        needed: needed.toFixed(step.scale),
      }),
    ],
  };
}
