import { newId } from '@/ui/post';

/** The device's only clock. A test build adds the shared test clock's offset to both the wall and the monotonic time. */
const shared = globalThis as { __vastStoneClock?: { wall: number; mono: number } };
const isTestBuild = process.env.NEXT_PUBLIC_TEST_CLOCK === '1';

export const now = (): number => Math.round(Date.now() + (isTestBuild ? (shared.__vastStoneClock?.wall ?? 0) : 0));
export const mono = (): number => Math.round(performance.now() + (isTestBuild ? (shared.__vastStoneClock?.mono ?? 0) : 0));
export const offsetMinutes = (): number => -new Date(now()).getTimezoneOffset();

export { newId };

/** This start of the program; the monotonic clock counts from it. */
export const boot = typeof window === 'undefined' ? 'server' : newId();
