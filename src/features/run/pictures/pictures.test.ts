import fc from 'fast-check';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { closeUp, limitLines, sceneOf } from '@/core/course';
import { judge, type Point, type RunEvent, drawn as remembered, thinned, tracesOf } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { eventsFor, examplePlan } from '@/core/simulation/examples.fixture';
import { holdOf } from '@/core/simulation/of-plan.fixture';
import { layOut } from './blocks';
import { CoursePicture } from './course-picture';
import { wordsOfLines } from './hold-limits';
import { focusOf } from './scene';

/** The picture after so many of a run's events. */
function drawn(plan: Plan, events: readonly RunEvent[], width: number): string {
  const judgement = judge(plan, events);
  const traced = tracesOf(plan, judgement, events, undefined, 0);
  return renderToStaticMarkup(createElement(CoursePicture, { plan, judgement, events, traced, width, height: 300, narrow: width < 600 }));
}

describe('a picture of every kind', () => {
  test.each(procedures.map(({ id }) => [id] as const))('%s: drawn at every moment of its run, with no figure that is none', (id) => {
    const plan = examplePlan(id);
    const events = eventsFor(plan, 'sound');
    // Every few events, and the end: each phase is met open and over.
    for (let count = 0; count <= events.length; count += 4)
      for (const width of [360, 900]) {
        const markup = drawn(plan, events.slice(0, count), width);
        expect(markup).toContain('<svg');
        expect(markup).not.toMatch(/NaN|Infinity|undefined/);
      }
    expect(drawn(plan, events, 900)).toContain('All phases are done');
  });

  test('what differs between kinds of test is the scene, and each has its own', () => {
    const scenes = new Set(procedures.flatMap(({ id }) => examplePlan(id).phases.map((phase) => sceneOf(examplePlan(id), phase))));
    expect([...scenes].sort()).toEqual(
      ['air', 'appliance round', 'bands', 'dial', 'dye', 'flow', 'level', 'line map', 'loops', 'make-up', 'trace'].sort(),
    );
  });

  test('beside a list the deciding phase is shown, once it is over or where no pressure is held', () => {
    const ducts = examplePlan('duct-tightness');
    expect(focusOf(ducts, judge(ducts, []))?.id).toBe('points');
    const water = examplePlan('water-isolation-hold');
    expect(focusOf(water, judge(water, []))?.id).toBe('prepare');
    expect(focusOf(water, judge(water, eventsFor(water, 'sound')))?.id).toBe('hold');
  });
});

describe('a trace on the pixels that there are', () => {
  const traces = fc
    .array(fc.double({ min: -50, max: 50, noNaN: true }), { minLength: 1, maxLength: 3000 })
    .map((values) => values.map((value, index): Point => ({ seconds: index / 10, value })));

  test('never more than four marks a column; ends, lowest and highest are all there, in order of time', () =>
    fc.assert(
      fc.property(traces, fc.integer({ min: 2, max: 200 }), (points, columns) => {
        const kept = thinned(points, columns);
        expect(remembered(points, columns)).toEqual(kept);
        expect(remembered(points, columns)).toBe(remembered(points, columns));
        const values = (list: readonly Point[]) => list.map(({ value }) => value);
        expect(kept.length).toBeLessThanOrEqual(Math.max(columns * 4, Math.min(points.length, columns * 4)));
        expect([kept[0], kept.at(-1)]).toEqual([points[0], points.at(-1)]);
        expect(Math.min(...values(kept))).toBe(Math.min(...values(points)));
        expect(Math.max(...values(kept))).toBe(Math.max(...values(points)));
        expect(kept.every(({ seconds }, index) => index === 0 || seconds >= kept[index - 1].seconds)).toBe(true);
      }),
      { numRuns: 60 },
    ));
});

describe('lines that a hold is judged by', () => {
  test('a permitted drop has its floor, and what is perceptible above it', () => {
    const hold = holdOf('domestic-gas-millibar');
    expect(limitLines(hold, 20.5, 'mbar').map(({ at, decides }) => [at, decides])).toEqual([
      [16.5, true],
      [20.25, false],
    ]);
    expect(closeUp(hold, 20.5, 'mbar')).toEqual([20.5 - 4 * 1.6, 20.5 + 0.25 * 2.4]);
  });
  test('nothing is drawn from a start that was not read, but a ceiling always stands', () => {
    expect(limitLines(holdOf('water-isolation-hold'), undefined, 'bar')).toEqual([]);
    expect(limitLines(holdOf('pool-lines-pressure'), undefined, 'psi').map(({ side }) => side)).toEqual(['above']);
  });
  test('figures are as the gauge shows them, and the words of near lines stand apart and in the picture', () => {
    expect(limitLines(holdOf('drain-level-hold'), -37, 'mm').map(({ label }) => label)).toEqual(['floor -38']);
    const lines = limitLines(holdOf('domestic-gas-millibar'), 20.5, 'mbar');
    for (const pxPerMbar of [0.1, 1, 3, 40]) {
      const words = wordsOfLines(lines, (value) => 200 - (value - 16) * pxPerMbar, 190).map((one) => one.words);
      expect(words[1] - words[0]).toBeGreaterThanOrEqual(13);
      expect(Math.max(...words)).toBeLessThanOrEqual(190);
    }
  });
  test('a leak rate is drawn as the fall that leaves its best band', () => {
    const hold = holdOf('gas-leak-rate');
    const [line] = limitLines(hold, 22, 'mbar');
    expect(line.at).toBeLessThan(22);
    expect(line.label).toContain('best band ends');
  });
});

test('blocks fill the width, none too small to see, and the open one has its share', () => {
  for (const { id } of procedures) {
    const { phases } = examplePlan(id);
    for (const width of [310, 800]) {
      const blocks = layOut(phases, phases[1].id, width, 0.5);
      expect(blocks.reduce((sum, block) => sum + block.width, 0)).toBeCloseTo(width, 6);
      expect(Math.min(...blocks.map((block) => block.width))).toBeGreaterThan(width / phases.length / 8);
      expect(blocks.find(({ phase }) => phase.id === phases[1].id)?.width).toBeCloseTo(width / 2, 6);
    }
  }
});
