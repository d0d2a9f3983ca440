import { closeUp, type HoldPhase, inPlanUnit, limitLines, type PlacedLine, unitOfHold } from '../course';
import { heldSoFar, type Judgement, type PhaseJudgement, type Point, thinned } from '../judging';
import { timeText } from '../limits';
import type { Plan } from '../planning';
import { isPressureUnit, type Unit, unitLabel } from '../quantities';
import type { PaperLocale } from '../record';
import { arc, area, type Drawing, dot, line, type Mark, onCircle, scale, ticks, words } from './drawing';
import { hourText } from './times';

/** What a picture of one phase is drawn from. */
export interface Pictured {
  readonly plan: Plan;
  readonly judgement: Judgement;
  readonly state: PhaseJudgement;
  /** Readings of this phase's round, seconds since its start, in the phase's unit. */
  readonly points: readonly Point[];
  readonly offsetMinutes: number;
  readonly locale: PaperLocale;
  readonly width: number;
  /** A small picture stands among the details. */
  readonly small: boolean;
}

/** A drawing with what it says to whoever does not see it. */
export interface Picture {
  readonly drawing: Drawing;
  readonly says: string;
  readonly caption: string;
}

const heightOf = ({ small }: Pictured): number => (small ? 112 : 168);
const [left, right, top, foot] = [44, 8, 10, 26];

/** A few readings are marked one by one: between them nobody looked. */
const fewest = 8;

/** How far the axis of time is written: in the unit that its length asks for. */
const timeUnit = (seconds: number): { readonly per: number; readonly unit: string } =>
  seconds <= 180 ? { per: 1, unit: 's' } : seconds <= 4 * 3600 ? { per: 60, unit: 'min' } : { per: 3600, unit: 'h' };

/** Lines written beside one another where they lie too close to be told apart. */
function labelled(lines: readonly PlacedLine[], y: (value: number) => number, at: number): readonly Mark[] {
  let last = Number.NEGATIVE_INFINITY;
  return [...lines]
    .sort((a, b) => b.at - a.at)
    .map(({ at: value, label, decides, side }) => {
      const wanted = y(value) + (side === 'below' && decides ? 9 : -3);
      last = Math.max(wanted, last + 9);
      return words(at, last, label, { anchor: 'end', tone: decides ? 'stop' : 'quiet', figures: true });
    });
}

/** A hold against time, so near that a movement at its limit is seen; a level as the water that stands under it. */
export function tracePicture(phase: HoldPhase, given: Pictured, level: boolean): Picture | undefined {
  const { plan, state, points, offsetMinutes, locale, width } = given;
  const height = heightOf(given);
  const held = heldSoFar(state);
  if (held === undefined || points.length === 0) return undefined;
  const unit: Unit = unitOfHold(plan, phase);
  const start = inPlanUnit(plan, Number(held.start), phase);
  const values = points.map(({ value }) => value);
  const near = closeUp(phase, start, unit) ?? [start * 0.9, start * 1.1];
  const [low, high] = [Math.min(near[0], ...values), Math.max(near[1], ...values)];
  const room = (high - low) * 0.06 || 1;
  const all = limitLines(phase, start, unit);
  const lowest = isPressureUnit(unit) && low >= 0 ? Math.max(0, low - room) : low - room;
  // A line that the close-up does not reach would be drawn where it does not stand.
  const lines = all.filter(({ at }) => at >= lowest && at <= high + room);
  const span = Math.max(phase.seconds, points[points.length - 1].seconds);
  const { per, unit: shown } = timeUnit(span);
  const x = scale([0, span], [left, width - right]);
  const y = scale([lowest, high + room], [height - foot, top]);
  const bottom = height - foot;
  const few = points.length < fewest;
  const drawn = few ? points : thinned(points, 240);
  const path = drawn.flatMap(({ seconds, value }) => [x(seconds), y(value)]);
  const ends = [points[0], points[points.length - 1]] as const;
  const label = unitLabel(unit);
  const marks: Mark[] = [
    ...ticks(lowest, high + room, given.small ? 4 : 7).flatMap(({ value, text }) => [
      line([left, y(value), width - right, y(value)], 'faint', 0.5),
      words(left - 4, y(value) + 3, text, { anchor: 'end', figures: true }),
    ]),
    ...ticks(0, span / per, width < 200 ? 4 : 8).flatMap(({ value, text }) => [
      line([x(value * per), bottom, x(value * per), bottom + 3], 'quiet', 0.6),
      words(x(value * per), bottom + 12, text, { anchor: 'middle', figures: true }),
    ]),
    words(left - 4, top - 2, label, { anchor: 'end' }),
    words(width - right, height - 3, `${shown} after ${hourText(held.startAt, offsetMinutes, locale, true)}`, { anchor: 'end' }),
    ...(level ? [area([...path, path[path.length - 2], bottom, path[0], bottom], 'good', 0.18)] : []),
    line([left, bottom, width - right, bottom], 'quiet', 0.8),
    ...lines.map(({ at, decides }) => line([left, y(at), width - right, y(at)], decides ? 'stop' : 'quiet', decides ? 1.1 : 0.7, true)),
    line(path, few ? 'quiet' : 'ink', few ? 0.8 : 1.3),
    ...(few ? points : ends).map(({ seconds, value }) => dot(x(seconds), y(value), 2.6, 'ink')),
    ...labelled(lines, y, width - right - 2),
  ];
  const at = `${held.start}${held.end === undefined ? '' : ` to ${held.end}`}`;
  return {
    drawing: { width, height, marks },
    says: `${level ? 'The level' : 'The reading'} against time during ${phase.title}: ${at}. ${lines.map(({ label: name }) => name).join(', ')}.`,
    caption: few
      ? `${phase.title}: the dots are what was read; between them nobody looked.`
      : `${phase.title}: ${points.length} readings over ${timeText(Math.round(points[points.length - 1].seconds))}.`,
  };
}

/** The meter's smallest dial: where its hand was marked, where it stood at the end, and the part of a turn that counts. */
export function dialPicture(phase: HoldPhase, given: Pictured): Picture | undefined {
  const { state, width } = given;
  const height = 168;
  const held = heldSoFar(state);
  if (held?.end === undefined || phase.limit.kind !== 'dial') return undefined;
  const [start, end] = [Number(held.start), Number(held.end)];
  const [cx, cy, radius] = [86, height / 2, 66];
  const counts = Number(phase.limit.threshold);
  const hand = (turns: number, length: number) => onCircle(cx, cy, length, turns);
  const marks: Mark[] = [
    line(arc(cx, cy, radius, 0, 1), 'ink', 1.2),
    ...Array.from({ length: 10 }, (_, index) => line([...hand(index / 10, radius), ...hand(index / 10, radius - 6)], 'quiet', 0.8)),
    line(arc(cx, cy, radius - 10, start, start + counts), 'stop', 4),
    line([cx, cy, ...hand(start, radius - 4)], 'quiet', 1.4, true),
    line([cx, cy, ...hand(end, radius - 4)], 'ink', 1.8),
    dot(cx, cy, 3, 'ink'),
    words(186, 54, `Marked at ${held.start} of a turn`, { size: 10, tone: 'ink', figures: true }),
    words(186, 72, `Stood at ${held.end} at the end`, { size: 10, tone: 'ink', figures: true }),
    words(186, 94, `A movement of ${phase.limit.threshold} of a turn counts: the broad arc.`, { size: 9, tone: 'stop' }),
  ];
  return {
    drawing: { width, height, marks },
    says: `The meter’s test dial during ${phase.title}: marked at ${held.start} of a turn, at ${held.end} at the end; ${phase.limit.threshold} counts.`,
    caption: `${phase.title}: the meter’s smallest dial. Dashed: its hand at the start.`,
  };
}
