import { expose } from 'comlink';
import type { Part } from '@/core/course';
import type { Plan } from '@/core/planning';
import { type Detection, detecting } from '@/core/simulation';

/** The detection curve off the screen's thread. Whoever asks ends the worker to stop it. */
const api = {
  detect(plan: Plan, part: Part, progress: (share: number) => void): Detection {
    const steps = detecting({ plan, part });
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
