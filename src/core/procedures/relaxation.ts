import type { Band } from '../course/phases';
import { decimal, multiply, toText } from '../quantities';
import { type Card, type ConclusionIn, cardOf, type Id, type PhaseIn, type WhenIn } from './card';
import { step } from './phase-shapes';

/**
 * Soft pipe gives way after it is raised, which looks like a leak: a first stage lets it, it is topped up once, and must
 * then stand (DOMAIN 5.10, 5.11). A fall beyond what relaxing can be is a leak from the start.
 */
export interface Relaxing<P> {
  readonly band: Band;
  readonly ceiling: string;
  readonly seconds: number;
  /** One step of the gauge, in the plan's unit. */
  readonly threshold: string;
  /** Largest fall that relaxing may cause, a share of the pressure. */
  readonly share: string;
  readonly when: WhenIn<P>;
  /** Where to start again when it is spoilt. */
  readonly restartFrom: Id<P>;
}

const card = cardOf({ 'stage-1': 'no-fall', 'top-up': 'check', 'stage-1-again': 'no-fall', 'rig-1': ['dry', 'bubbles'] });
const { after, checkPhase, holdPhase } = card;
type Names = typeof card.names;

/** Stage 1 with its one top-up, for a card that names these phases. */
export function relaxingStages<P extends Names>(
  _: Card<P>,
  { band, ceiling, seconds, threshold, share, when, restartFrom }: Relaxing<P>,
): readonly PhaseIn<P>[] {
  const permitted = toText(multiply(decimal(band.low), multiply(decimal(share), decimal('0.01'))));
  // What comes before these phases is named by the whole card, and was proved there.
  const [ready, back] = [when, restartFrom] as unknown as [WhenIn<Names>, Id<Names>];
  const stage = (id: 'stage-1' | 'stage-1-again', title: string, say: string, due: WhenIn<Names>) =>
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
      restartFrom: id === 'stage-1' ? back : 'top-up',
    });
  return [
    stage(
      'stage-1',
      'Stage 1, relaxing',
      'Raise slowly into the band, shut and disconnect the pump, and read the gauge. Soft pipe will give way.',
      ready,
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
  ] satisfies readonly PhaseIn<Names>[] as unknown as readonly PhaseIn<P>[];
}

/** It stood, at once or after its one top-up. */
export const relaxed: WhenIn<Names> = [...after('stage-1', 'tight'), ...after('stage-1-again', 'tight')];

/** What the first stage alone can conclude; a fall beyond relaxing goes through the rig check of these ids. */
export const relaxingConclusions: readonly ConclusionIn<Names>[] = [
  { when: after('rig-1', 'bubbles'), verdict: 'inconclusive', reason: 'rig-leaks' },
  { when: after('rig-1', 'dry'), verdict: 'fail', reason: 'fall', about: 'stage-1' },
  { when: after('stage-1-again', 'permitted', 'fall'), verdict: 'inconclusive', reason: 'still-relaxing', about: 'stage-1-again' },
];
