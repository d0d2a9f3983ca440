/**
 * SHA-256 (FIPS 180-4) of a text's UTF-8 bytes, as lower-case hex. Our own, because a plan must be hashed at once and
 * also where the browser offers no crypto (plain HTTP in a plant room).
 */
export const sha256 = (text: string): string => sha256Bytes(new TextEncoder().encode(text));

/** As `sha256`, of bytes. */
export function sha256Bytes(bytes: Uint8Array): string {
  const padded = new Uint8Array((((bytes.length + 8) >> 6) + 1) << 6);
  padded.set(bytes);
  padded[bytes.length] = 0x80;
  const view = new DataView(padded.buffer);
  view.setUint32(padded.length - 8, Math.floor((bytes.length * 8) / 2 ** 32));
  view.setUint32(padded.length - 4, (bytes.length * 8) >>> 0);

  const hash = Uint32Array.from(initial);
  const schedule = new Uint32Array(64);
  for (let block = 0; block < padded.length; block += 64) {
    for (let index = 0; index < 16; index += 1) schedule[index] = view.getUint32(block + index * 4);
    for (let index = 16; index < 64; index += 1) {
      const before15 = schedule[index - 15];
      const before2 = schedule[index - 2];
      const small0 = turn(before15, 7) ^ turn(before15, 18) ^ (before15 >>> 3);
      const small1 = turn(before2, 17) ^ turn(before2, 19) ^ (before2 >>> 10);
      schedule[index] = schedule[index - 16] + small0 + schedule[index - 7] + small1;
    }
    let [a, b, c, d, e, f, g, h] = hash;
    for (let index = 0; index < 64; index += 1) {
      const big1 = turn(e, 6) ^ turn(e, 11) ^ turn(e, 25);
      const first = (h + big1 + ((e & f) ^ (~e & g)) + rounds[index] + schedule[index]) | 0;
      const big0 = turn(a, 2) ^ turn(a, 13) ^ turn(a, 22);
      const second = (big0 + ((a & b) ^ (a & c) ^ (b & c))) | 0;
      [h, g, f, e, d, c, b, a] = [g, f, e, (d + first) | 0, c, b, a, (first + second) | 0];
    }
    for (const [index, value] of [a, b, c, d, e, f, g, h].entries()) hash[index] += value;
  }
  return Array.from(hash, (word) => word.toString(16).padStart(8, '0')).join('');
}

const turn = (word: number, by: number): number => (word >>> by) | (word << (32 - by));

/** Fractional parts of square and cube roots of the first primes, as the standard defines its constants. */
const primes: readonly number[] = (() => {
  const found: number[] = [];
  for (let candidate = 2; found.length < 64; candidate += 1) if (found.every((prime) => candidate % prime !== 0)) found.push(candidate);
  return found;
})();

/** First 32 bits of the fraction of the integer root of prime·2^(32·degree), by whole-number arithmetic. */
function rootFraction(prime: number, degree: 2 | 3): number {
  const target = BigInt(prime) << BigInt(32 * degree);
  let low = 0n;
  let high = 1n << 40n;
  while (high - low > 1n) {
    const middle = (low + high) >> 1n;
    if (middle ** BigInt(degree) <= target) low = middle;
    else high = middle;
  }
  return Number(low & 0xffffffffn);
}

const initial = primes.slice(0, 8).map((prime) => rootFraction(prime, 2));
const rounds = primes.map((prime) => rootFraction(prime, 3));
