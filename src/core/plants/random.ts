/** Seeded randomness without state: the same seed and index give the same number on every machine (mulberry32's mixing). */
export function randomAt(seed: number, index: number): number {
  let mixed = (seed + Math.imul(index + 1, 0x6d2b79f5)) | 0;
  mixed = Math.imul(mixed ^ (mixed >>> 15), mixed | 1);
  mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
  return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
}

/** Bell-shaped, mean 0, deviation 1 (sum of twelve uniforms, so that no machine-dependent logarithm is needed). */
export function bellAt(seed: number, index: number): number {
  let sum = -6;
  for (let part = 0; part < 12; part += 1) sum += randomAt(seed, index * 12 + part);
  return sum;
}

/** A UUID (version 4 in form) from a seed: for simulated records, which must come out the same every time. */
export function uuidAt(seed: number, index: number): string {
  const hex = Array.from({ length: 32 }, (_, place) => Math.floor(randomAt(seed ^ 0x5bd1e995, index * 32 + place) * 16).toString(16));
  hex[12] = '4';
  hex[16] = '89ab'[Number.parseInt(hex[16], 16) & 3];
  const text = hex.join('');
  return `${text.slice(0, 8)}-${text.slice(8, 12)}-${text.slice(12, 16)}-${text.slice(16, 20)}-${text.slice(20)}`;
}
