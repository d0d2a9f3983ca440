'use client';

import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { countdown, useNow } from '@/device/use-now';
import { isHolding, useRunning } from '@/device/use-running';
import type { Running } from '@/server/field';
import { link, subheading } from '@/ui/classes';
import { Simulated } from '@/ui/notice';

/** The holds that run now, whoever runs them, with trace and time left. */
export function RunningHolds() {
  const all = useRunning();
  const time = useNow(500);
  const running = all.filter((one) => isHolding(one, time));
  const unfinished = all.filter((one) => !isHolding(one, time));
  return (
    <section aria-labelledby="running">
      <h2 id="running" className={subheading}>
        Running now
      </h2>
      {running.length === 0 ? (
        <p className="mt-1 text-quiet">No hold is running. Plan a test below; it shows here with its time left while it holds.</p>
      ) : (
        <ul className="mt-2 grid gap-4 sm:grid-cols-2">
          {running.map((one) => (
            <li key={one.run} className="slab">
              <a href={`/field?run=${one.run}`} className="block p-3 hover:bg-sunken">
                <span className="flex items-baseline justify-between gap-3">
                  <b>
                    {one.system} <span className="font-normal text-quiet">{one.site}</span>
                  </b>
                  {one.simulated && <Simulated />}
                </span>
                <span className="mt-1 flex items-end justify-between gap-4">
                  <span>
                    {one.phase}
                    <span className="block text-sm text-quiet">{one.technician}</span>
                    {one.forecast !== undefined && (
                      <span className="block text-sm">
                        forecast fall <span className="figures">{one.forecast.fall}</span> {one.forecast.unit},{' '}
                        {forecastWords[one.forecast.status]}
                      </span>
                    )}
                  </span>
                  <Spark running={one} />
                  <span className="figures text-3xl font-semibold">{one.dueAt === undefined ? '' : countdown(one.dueAt - time)}</span>
                </span>
              </a>
            </li>
          ))}
        </ul>
      )}
      {unfinished.length > 0 && (
        <>
          <h3 className="mt-4 font-semibold">Begun, not finished</h3>
          <ul className="mt-1 divide-y divide-line border-y border-line">
            {unfinished.map(({ run, system, site, phase, technician, simulated }) => (
              <li key={run} className="flex min-h-12 flex-wrap items-center justify-between gap-x-6 py-1.5">
                <span>
                  <b>{system}</b>{' '}
                  <span className="text-quiet">
                    {site} · {phase} · {technician}
                  </span>{' '}
                  {simulated && <Simulated />}
                </span>
                <a className={link} href={`/field?run=${run}`}>
                  Go on
                </a>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

const forecastWords = {
  below: 'below the limit so far',
  above: 'above the limit',
  unclear: 'cannot tell yet',
  bends: 'cannot tell yet: it still bends',
} as const;

function Spark({ running: { points } }: { readonly running: Running }) {
  if (points.length < 2) return null;
  const x = scaleLinear([points[0][0], points[points.length - 1][0]], [2, 118]);
  const values = points.map(([, value]) => value);
  const y = scaleLinear([Math.min(...values) - 0.3, Math.max(...values) + 0.3], [38, 2]);
  return (
    <svg width="120" height="40" aria-hidden="true">
      <path
        d={
          line<readonly [number, number]>(
            ([at]) => x(at),
            ([, value]) => y(value),
          )(points) ?? ''
        }
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
      />
    </svg>
  );
}
