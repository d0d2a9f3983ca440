import { holdTimeForLeak } from '../physics/hold-sight';
import { good, type Result } from '../quantities';

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

/** Leak that the hold must show whatever the gauge, L/h. */
const leakToShow = 0.1;

/**
 * Times by volume, the hold lengthened until this gauge can show 0.1 L/h: t = V·δ/(p_ref·q), δ one step of the gauge
 * (DOMAIN 3.3, 5.6). 200 L itself belongs to the middle row.
 * @param litres above zero @param stepPa one step of the gauge, Pa
 */
export function serviceTimes(work: keyof typeof byVolume, litres: number, stepPa: number): Result<ServiceTimes> {
  const row = byVolume[work].find(({ under }) => litres < under || (under === 200 && litres === 200)) ?? byVolume[work][2];
  const needed = holdTimeForLeak(litres / 1000, stepPa, leakToShow / 3.6e6);
  if (!needed.ok) return needed;
  const seen = Math.ceil(needed.value / 60) * 60;
  const rounded = Math.max(row.hold * 60, seen);
  return good({
    settleSeconds: row.settle * 60,
    holdSeconds: rounded,
    why: [
      `${litres.toFixed(1)} L: stabilise ${row.settle} min, measure ${row.hold} min.`,
      ...(rounded > row.hold * 60
        ? [`This gauge needs ${Math.round(rounded / 60)} min to show ${leakToShow} L/h, so the measuring is lengthened to that.`]
        : []),
    ],
  });
}
