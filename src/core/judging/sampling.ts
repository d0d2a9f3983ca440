/** A gauge that can be asked what it showed at any time: the simulated one. */
export interface AskedGauge {
  readonly shownAt: (ms: number, role?: string) => string;
}

/** Most samples that are kept of a hold. */
const mostSamples = 3600;

/** Time between samples of a hold: a second, and more for one of hours. */
export const sampleStepMs = (seconds: number): number => Math.max(1, Math.ceil(seconds / mostSamples)) * 1000;

/** What the simulated gauge showed in a hold of so many seconds, as often as it is kept. */
export function sampled(
  gauge: AskedGauge,
  from: number,
  to: number,
  seconds: number,
  role?: string,
): readonly { readonly at: number; readonly shown: string }[] {
  const samples: { at: number; shown: string }[] = [];
  const step = sampleStepMs(seconds);
  for (let at = from; at <= to; at += step) samples.push({ at, shown: gauge.shownAt(at, role) });
  return samples;
}
