import { fallOutOfBest } from '@/core/planning/leak-bands';
import type { HoldPhase } from '@/core/procedures/phases';
import { fromSi, type Unit } from '@/core/quantities';

/** A line that a hold must not reach, in the hold's unit. */
export interface LimitLine {
  readonly at: number;
  readonly label: string;
  readonly decides: boolean;
  readonly side: 'above' | 'below';
}

/** Lines that a hold is judged by, from its start reading where it has one. */
export function limitLines({ criterion, seconds, ceiling }: HoldPhase, start: number | undefined, unit: Unit): readonly LimitLine[] {
  const lines: LimitLine[] = [];
  const below = (fall: number, label: string, decides = true) =>
    start !== undefined && lines.push({ at: start - fall, label: `${label} ${(start - fall).toFixed(2)}`, decides, side: 'below' });
  const above = (at: number, label: string) => lines.push({ at, label: `${label} ${Number(at.toFixed(3))}`, decides: true, side: 'above' });
  switch (criterion.kind) {
    case 'no-fall':
      below(Number(criterion.permitted ?? criterion.threshold), 'floor');
      if (criterion.permitted !== undefined) below(Number(criterion.threshold), 'perceptible', false);
      break;
    case 'no-rise':
      if (start !== undefined) above(start + Number(criterion.threshold), 'limit');
      break;
    case 'at-most':
      above(Number(criterion.limit), 'never above');
      if (criterion.creep !== undefined && start !== undefined) above(start + Number(criterion.creep), 'creep');
      break;
    case 'keep':
      if (criterion.within !== undefined) below(Number(criterion.within), 'pump back by');
      break;
    case 'leak-rate':
      below(fromSi(fallOutOfBest(criterion, seconds), unit), 'best band ends');
      break;
    case 'wait':
    case 'dial':
      break;
  }
  if (ceiling !== undefined) above(Number(ceiling), 'ceiling');
  return lines;
}

/** How far the axis reaches about a start while its hold is watched, so that a movement at the threshold can be seen. */
export function closeUp(phase: HoldPhase, start: number | undefined, unit: Unit): readonly [number, number] | undefined {
  const { criterion, seconds } = phase;
  if (start === undefined) return undefined;
  const about = (limit: number, threshold: number): readonly [number, number] => [
    start - Math.max(limit, threshold) * 1.6,
    start + threshold * 2.4,
  ];
  switch (criterion.kind) {
    case 'no-fall':
      return about(Number(criterion.permitted ?? criterion.threshold), Number(criterion.threshold));
    case 'no-rise':
      return about(Number(criterion.threshold), Number(criterion.threshold));
    case 'leak-rate': {
      const fall = fromSi(fallOutOfBest(criterion, seconds), unit);
      return about(fall, fall * 0.4);
    }
    case 'keep':
      return criterion.within === undefined ? undefined : about(Number(criterion.within), Number(criterion.within) * 0.4);
    case 'at-most':
      return [Math.min(start, Number(criterion.limit)) * 0.85, Number(criterion.limit) * 1.08];
    default:
      return undefined;
  }
}
