import { holdTimeForLeak } from '../physics/hold-sight';
import { good, type Result, referencePressure } from '../quantities';

/** Stabilising and holding times of the litres-per-hour school, by volume (DOMAIN 5.6), in seconds. */
export interface ServiceTimes {
  readonly settleSeconds: number;
  readonly holdSeconds: number;
  /** Sentences that derive them. */
  readonly why: readonly string[];
}

const byVolume = {
  existing: [
    { under: 100, settle: 10, hold: 5 },
    { under: 200, settle: 30, hold: 10 },
    { under: Number.POSITIVE_INFINITY, settle: 60, hold: 15 },
  ],
  new: [
    { under: 100, settle: 10, hold: 10 },
    { under: 200, settle: 30, hold: 20 },
    { under: Number.POSITIVE_INFINITY, settle: 60, hold: 30 },
  ],
} as const;

/** Volume and time must be able to show so much, L/h: at most half of the start pressure lost, lengthened never past four fifths. */
const mostToShow = 5;

/** Leak that the hold must show whatever the gauge, L/h. */
const leakToShow = 0.1;

/**
 * Times by volume, the hold lengthened until this gauge can show 0.1 L/h: t = V·δ/(p_ref·q), δ one step of the gauge
 * (DOMAIN 3.3, 5.6). 200 L itself belongs to the middle row.
 * A small volume at a low pressure empties before that: the time in which 5 L/h takes half of it, t = ln 2·V·p₁/(p_ref·5 L/h), is
 * then the longest, 30 s at least; lengthened, ln 5 of the same.
 * @param litres with the rig, above zero @param systemLitres without it: what the rows go by @param stepPa one step of the gauge, Pa @param startPa gauge pressure at the start of an existing line, Pa
 * @param factor what turns the rate found into that of the gas carried
 * @example 10 L at 22 mbar: 108 s
 */
export function serviceTimes(
  work: keyof typeof byVolume,
  { litres, systemLitres }: { readonly litres: number; readonly systemLitres: number },
  stepPa: number,
  startPa = Number.POSITIVE_INFINITY,
  factor = 1,
): Result<ServiceTimes> {
  const rowed = Number(systemLitres.toFixed(6));
  const row = byVolume[work].find(({ under }) => rowed < under || (under === 200 && rowed === 200)) ?? byVolume[work][2];
  const needed = holdTimeForLeak(litres / 1000, stepPa, leakToShow / 3.6e6);
  if (!needed.ok) return needed;
  const seen = Math.ceil(needed.value / 60) * 60;
  const emptying = (litres / 1000) * (startPa / referencePressure) * ((3.6e6 * factor) / mostToShow);
  const half = Math.max(30, Math.floor(Math.LN2 * emptying));
  const shortest = Math.min(row.hold * 60, half);
  const rounded = Math.max(shortest, Math.min(seen, Math.max(30, Math.floor(Math.log(5) * emptying))));
  return good({
    settleSeconds: row.settle * 60,
    holdSeconds: rounded,
    why: [
      `${rowed.toFixed(1)} L: stabilise ${row.settle} min, measure ${row.hold} min.`,
      ...(shortest < row.hold * 60
        ? [
            `At this pressure ${mostToShow} L/h would take more than half of what is in so small a line, so it is measured for ${shortest} s: longer, a large leak could not be told from a larger one.`,
          ]
        : []),
      ...(rounded > shortest
        ? [
            `This gauge needs ${Math.ceil(seen / 60)} min to show ${leakToShow} L/h, so the measuring is lengthened to ${Math.round(rounded)} s.`,
          ]
        : []),
    ],
  });
}
