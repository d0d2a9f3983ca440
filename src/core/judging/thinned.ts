import type { Point } from './seen';

/**
 * A trace as it can be seen on so many columns of pixels: the first, lowest, highest and last of each, in order of time. A
 * narrow dip of a tenth of a second is still drawn, and a million points cost no more to draw than a screen is wide.
 * @param points in order of time
 */
export function thinned(points: readonly Point[], columns: number): readonly Point[] {
  if (points.length <= columns * 4) return points;
  const from = points[0].seconds;
  const span = points[points.length - 1].seconds - from || 1;
  const kept: Point[] = [];
  let column = -1;
  let first = points[0];
  let low = first;
  let high = first;
  let last = first;
  const close = () => {
    const marks = [first, ...(low.seconds <= high.seconds ? [low, high] : [high, low]), last];
    for (const mark of marks) if (kept[kept.length - 1] !== mark) kept.push(mark);
  };
  for (const point of points) {
    const at = Math.min(columns - 1, Math.floor(((point.seconds - from) / span) * columns));
    if (at !== column) {
      if (column >= 0) close();
      column = at;
      first = low = high = point;
    }
    if (point.value < low.value) low = point;
    if (point.value > high.value) high = point;
    last = point;
  }
  close();
  return kept;
}

const known = new WeakMap<readonly Point[], { readonly columns: number; readonly points: readonly Point[] }>();

/** The same, remembered by the list itself: a hold that is over is not thinned again ten times a second. */
export function drawn(points: readonly Point[], columns: number): readonly Point[] {
  const before = known.get(points);
  if (before?.columns === columns) return before.points;
  const kept = thinned(points, columns);
  known.set(points, { columns, points: kept });
  return kept;
}
