import { randomUUID } from 'node:crypto';
import type { EventOf, RunEvent } from '@/core/judging';
import { now } from './clock';

/* Events that the server itself writes into a run's log: what its register and its clock know (DOMAIN 4.25). */

const envelope = (run: string) => {
  const at = now();
  return {
    schema: 1 as const,
    run,
    id: randomUUID(),
    device: 'server',
    author: 'server',
    boot: 'server',
    seq: 1,
    observedAt: at,
    enteredAt: at,
    offsetMinutes: 0,
    mono: 0,
  };
};

export type FoundBody = Pick<EventOf<'found'>, 'type' | 'about' | 'of' | 'is' | 'text'>;
type ClockBody = Pick<EventOf<'clock'>, 'type' | 'of' | 'ofBoot' | 'deviceAt' | 'deviceMono' | 'serverAt'>;

export const serverEvent = (run: string, body: FoundBody | ClockBody): RunEvent => ({ ...envelope(run), ...body });
