import type { Phase } from '../course/phases';
import { roomOfHold, roomOfMeasure } from '../limits';

/** What a phase comes to when all goes well; used to show the way ahead, never to judge. */
export function hopedOf(phase: Phase): string {
  switch (phase.kind) {
    case 'check':
      return 'done';
    case 'zero':
      return 'zeroed';
    case 'observe':
      return phase.options.find(({ hoped }) => hoped)?.id ?? '';
    case 'hold':
      return roomOfHold(phase.limit).hoped(phase.limit);
    case 'measure':
      return roomOfMeasure(phase.limit).hoped(phase.limit);
  }
}

/** Whether a phase's figures decide the test; one that does not only lets the next begin. */
export const decides = (phase: Phase): boolean =>
  phase.kind === 'hold' ? roomOfHold(phase.limit).decides : phase.kind === 'measure' && roomOfMeasure(phase.limit).decides;
