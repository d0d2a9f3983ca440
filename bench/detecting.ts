import { performance } from 'node:perf_hooks';
import { exampleInput, planTest, waysToSharpen } from '@/core/planning';
import { procedures } from '@/core/procedures';
import { detect, noCurve } from '@/core/simulation';
import type { Say } from './measures';

/** A detection curve of 12 sizes × 200 runs for every procedure that has one, and a plan with its figures and its ways to sharpen it. */
export function detecting(say: Say): void {
  for (const procedure of procedures) {
    const input = exampleInput(procedure, '2026-01-05');
    const planned = planTest(input);
    if (!planned.ok) continue;
    const { plan } = planned.value;
    const part = plan.sight[0];
    if (part === undefined || noCurve(plan, part) !== undefined) continue;
    const from = performance.now();
    const found = detect({ plan, part });
    const took = (performance.now() - from) / 1000;
    say(
      `Detection curve, ${procedure.title}`,
      `${took.toFixed(1)} s`,
      `${found.surelyCaught === undefined ? 'no size' : `from ${found.surelyCaught.toPrecision(2)}`} caught 95 of 100; sure ${part.sure} ${part.unit}`,
      'under 10 s in a worker',
    );
  }
  const input = exampleInput(procedures[0], '2026-01-05');
  for (let warm = 0; warm < 50; warm += 1) planTest(input);
  const from = performance.now();
  for (let run = 0; run < 100; run += 1) planTest(input);
  say('A plan with both figures', `${((performance.now() - from) / 100).toFixed(2)} ms`, '', 'under 5 ms');
  const planned = planTest(input);
  if (!planned.ok) return;
  const sharpening = performance.now();
  for (let run = 0; run < 20; run += 1) waysToSharpen(input, planned.value.plan, []);
  say('Ways to sharpen it', `${((performance.now() - sharpening) / 20).toFixed(1)} ms`, 'a plan each', 'after the sheet');
}
