import type { CheckPhase, HoldPhase, MeasurePhase, ObservePhase, Phase, ZeroPhase } from './phases';

/** Phases with what most of them share left out: no cautions of their own, always due, closing nothing. */
type Shape<P extends Phase> = Omit<P, 'kind' | 'cautions' | 'when' | 'closing'> & Partial<Pick<P, 'cautions' | 'when'>>;

const always = { cautions: [], when: [] } as const;

export const checkPhase = (phase: Shape<CheckPhase> & { readonly closing?: boolean }): CheckPhase => ({
  ...always,
  closing: false,
  ...phase,
  kind: 'check',
});
export const zeroPhase = (phase: Shape<ZeroPhase>): ZeroPhase => ({ ...always, ...phase, kind: 'zero' });
export const holdPhase = (phase: Shape<HoldPhase>): HoldPhase => ({ ...always, ...phase, kind: 'hold' });
export const observePhase = (phase: Shape<ObservePhase>): ObservePhase => ({ ...always, ...phase, kind: 'observe' });
export const measurePhase = (phase: Shape<MeasurePhase>): MeasurePhase => ({ ...always, ...phase, kind: 'measure' });

/** Before a fall is charged to the system, the rig's own joints are soaped (DOMAIN 4.8). */
export const soapTheRig = (id: string, after: string, say: string): ObservePhase =>
  observePhase({
    id,
    title: 'Soap the rig',
    say,
    when: [[{ phase: after, outcome: ['fall'] }]],
    options: [
      { id: 'dry', label: 'No bubbles on the rig', hoped: true },
      { id: 'bubbles', label: 'Bubbles on the rig', hoped: false },
    ],
  });
