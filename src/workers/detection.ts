import { expose } from 'comlink';
import { type Asked, detecting, type Tally } from '@/core/simulation';

/** The runs of a detection curve off the screen's thread. Whoever asks ends the worker to stop it. */
const api = {
  tally(asked: Asked, progress: (share: number) => void): Tally {
    const steps = detecting(asked);
    let said = 0;
    for (;;) {
      const step = steps.next();
      if (step.done === true) return step.value;
      if (step.value - said < 0.01) continue;
      said = step.value;
      progress(said);
    }
  },
};
export type DetectionWorker = typeof api;
expose(api);
