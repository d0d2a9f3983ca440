import { decimal, multiply, toText } from '../quantities';
import { after, checkPhase, holdPhase, step } from './phase-shapes';
import type { Band, Conclusion, Phase, When } from './phases';

/**
 * Soft pipe gives way after it is raised, which looks like a leak: a first stage lets it, it is topped up once, and must
 * then stand (DOMAIN 5.10, 5.11). A fall beyond what relaxing can be is a leak from the start.
 */
export interface Relaxing {
  readonly band: Band;
  readonly ceiling: string;
  readonly seconds: number;
  /** One step of the gauge, in the plan's unit. */
  readonly threshold: string;
  /** Largest fall that relaxing may cause, a share of the pressure. */
  readonly share: string;
  readonly when: When;
  /** Where to start again when it is spoilt. */
  readonly restartFrom: string;
}

/** Stage 1 with its one top-up. */
export function relaxingStages({ band, ceiling, seconds, threshold, share, when, restartFrom }: Relaxing): readonly Phase[] {
  const permitted = toText(multiply(decimal(band.low), multiply(decimal(share), decimal('0.01'))));
  const stage = (id: string, title: string, say: string, due: When): Phase =>
    holdPhase({
      id,
      title,
      purpose: 'tightness',
      cautions: ['pressure'],
      when: due,
      say,
      band,
      ceiling,
      seconds,
      limit: { kind: 'no-fall', threshold, permitted },
      restartFrom: id === 'stage-1' ? restartFrom : 'top-up',
    });
  return [
    stage(
      'stage-1',
      'Stage 1, relaxing',
      'Raise slowly into the band, shut and disconnect the pump, and read the gauge. Soft pipe will give way.',
      when,
    ),
    checkPhase({
      id: 'top-up',
      title: 'Top up once',
      cautions: ['pressure'],
      when: after('stage-1', 'permitted'),
      say: 'The pipe has relaxed. Top it up into the band, once, and disconnect the pump again.',
      items: [step('topped', `Topped up to ${band.low}, pump disconnected`, { to: band.low })],
    }),
    stage('stage-1-again', 'Stage 1, topped up', 'Read the gauge. A second fall means that it needs longer.', after('top-up', 'done')),
  ];
}

/** It stood, at once or after its one top-up. */
export const relaxed: When = [[{ phase: 'stage-1', outcome: ['tight'] }], [{ phase: 'stage-1-again', outcome: ['tight'] }]];

/** What the first stage alone can conclude; a fall beyond relaxing goes through the rig check of these ids. */
export const relaxingConclusions: readonly Conclusion[] = [
  { when: after('rig-1', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
  { when: after('rig-1', 'dry'), verdict: 'fail', reason: 'fall', about: 'stage-1' },
  { when: after('stage-1-again', 'permitted', 'fall'), verdict: 'inconclusive', reason: 'still-relaxing', about: 'stage-1-again' },
];
