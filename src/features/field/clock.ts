/** The device's only clock. A test build adds the shared test clock's offset to both the wall and the monotonic time. */
const shared = globalThis as { __vastStoneClock?: { wall: number; mono: number } };
const isTestBuild = process.env.NEXT_PUBLIC_TEST_CLOCK === '1';

export const now = (): number => Math.round(Date.now() + (isTestBuild ? (shared.__vastStoneClock?.wall ?? 0) : 0));
export const mono = (): number => Math.round(performance.now() + (isTestBuild ? (shared.__vastStoneClock?.mono ?? 0) : 0));
export const offsetMinutes = (): number => -new Date(now()).getTimezoneOffset();

/** Not `crypto.randomUUID`: that is missing over plain HTTP. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

/** This start of the program; the monotonic clock counts from it. */
export const boot = typeof window === 'undefined' ? 'server' : newId();
