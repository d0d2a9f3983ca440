import { viewOf } from '@/core/library';
import { procedures } from '@/core/procedures';
import { layCourse, pressureScale, pressureWay } from './course-layout';

const courses = procedures.map((procedure) => {
  const { worked } = viewOf(procedure, [], '2026-01-05');
  if (worked === undefined) throw new Error(procedure.id);
  return [procedure.id, worked.course] as const;
});

describe.each(courses)('the course of %s', (_, course) => {
  test.each([300, 900, 1600])('%d px wide: steps in order, without gaps, none too small to touch', (width) => {
    const laid = layCourse(course.steps, width);
    let x = 0;
    for (const one of laid) {
      expect(one.x).toBeCloseTo(x, 6);
      expect(one.width).toBeGreaterThanOrEqual(one.step.kind === 'hold' ? 58 : 26);
      x += one.width;
    }
    const least = course.steps.reduce((sum, { kind }) => sum + (kind === 'hold' ? 58 : 26), 0);
    expect(x).toBeLessThanOrEqual(Math.max(width, least) + 1e-6);
  });
  test('a longer hold is never narrower, and only one far longer is broken', () => {
    const holds = layCourse(course.steps, 1000).flatMap(({ step, width, broken }) =>
      step.kind === 'hold' ? [{ seconds: step.seconds, width, broken }] : [],
    );
    for (const one of holds)
      for (const other of holds) if (one.seconds > other.seconds) expect(one.width).toBeGreaterThanOrEqual(other.width - 1e-6);
    const shortest = Math.min(...holds.map(({ seconds }) => seconds));
    for (const { broken, seconds } of holds) if (broken) expect(seconds).toBeGreaterThan(shortest * 3);
  });
  test('the pressure keeps inside the picture, goes through each corridor, and ends at what is left on', () => {
    const laid = layCourse(course.steps, 1000);
    const { points, through } = pressureWay(laid);
    const y = pressureScale(course, 20, 240);
    for (const [index, { x, pressure }] of points.entries()) {
      expect(y(pressure)).toBeGreaterThanOrEqual(20);
      expect(y(pressure)).toBeLessThanOrEqual(240);
      if (index > 0) expect(x).toBeGreaterThanOrEqual(points[index - 1].x - 1e-6);
    }
    for (const { step } of laid) {
      if (step.kind !== 'hold' || step.band === undefined) continue;
      const at = through.get(step.id) ?? Number.NaN;
      expect(at >= step.band[0] && at <= step.band[1]).toBe(true);
    }
  });
});
