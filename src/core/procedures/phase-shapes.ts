import type { CheckItem, CheckPhase, HoldPhase, MeasurePhase, ObservePhase, Phase, PhasePicture, When, ZeroPhase } from '../course/phases';

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
export const soapTheRig = (
  id: string,
  after: string,
  say: string,
  outcome: readonly string[] = ['fall'],
  /** What a leak of the rig shows by: water needs no soap. */
  by: 'bubbles' | 'water' = 'bubbles',
): ObservePhase =>
  observePhase({
    id,
    title: by === 'water' ? 'Look at the rig' : 'Soap the rig',
    say,
    when: [[{ phase: after, outcome }]],
    options: [
      { id: 'dry', label: by === 'water' ? 'The rig is dry' : 'No bubbles on the rig', hoped: true },
      { id: 'bubbles', label: by === 'water' ? 'Water on the rig' : 'Bubbles on the rig', hoped: false },
    ],
  });

/** A step of a checklist. */
export const step = (id: string, text: string, more: Partial<CheckItem> = {}): CheckItem => ({ id, text, mayNotApply: false, ...more });

/** A step that may not apply, with a reason. */
export const stepIf = (id: string, text: string, more: Partial<CheckItem> = {}): CheckItem =>
  step(id, text, { mayNotApply: true, ...more });

/** A step that settles the boundary of its own name. */
export const edge = (id: string, text: string, more: Partial<CheckItem> = {}): CheckItem => step(id, text, { boundary: id, ...more });

/** What is seen of a gauge while the far side of a valve is opened: one that stands sees only itself (DOMAIN 4.28). */
export const gaugeFalls = [
  ['falls', 'The gauge falls at once'],
  ['stands', 'The gauge stands'],
] as const;

/** The list before anything is connected or raised. */
export const getReady = (
  items: readonly CheckItem[],
  cautions: readonly string[],
  say = 'Go through the list before anything is connected.',
  picture?: PhasePicture,
): CheckPhase => checkPhase({ id: 'prepare', title: 'Get ready', say, cautions, items, picture });

export const zeroGauge = (below: string, say = 'Gauge open to the air: read it. It must show zero.'): ZeroPhase =>
  zeroPhase({ id: 'zero', title: 'Zero the gauge', say, below });

/** The steps that gate closing after a pass, or after restricted use too. */
export const restoreList = (items: readonly CheckItem[], cautions: readonly string[] = [], restricted = false): CheckPhase =>
  checkPhase({
    id: 'restore',
    title: 'Restore',
    closing: true,
    afterStop: true,
    cautions,
    say: 'Put everything back. The test stays open until this list is done.',
    when: [[{ conclusion: 'pass' }], ...(restricted ? [[{ conclusion: 'restricted' as const }]] : [])],
    items,
  });

/** The steps that gate closing where nothing was proved. */
export const makeSafeList = (items: readonly CheckItem[], cautions: readonly string[] = []): CheckPhase =>
  checkPhase({
    id: 'make-safe',
    title: 'Leave it safe',
    closing: true,
    afterStop: true,
    cautions,
    say: 'This test proved no tightness. Leave it safe; the test stays open until this list is done.',
    when: [[{ conclusion: 'other' }]],
    items,
  });

/** A phase that is looked at and answered. The first option is what is seen when all is well. */
export const look = (
  id: string,
  title: string,
  say: string,
  options: readonly (readonly [id: string, label: string])[],
  more: Partial<Pick<ObservePhase, 'when' | 'cautions' | 'afterStop' | 'picture'>> = {},
): ObservePhase =>
  observePhase({ id, title, say, options: options.map(([one, label], index) => ({ id: one, label, hoped: index === 0 })), ...more });

/** A condition on one phase's outcome, as a `when`. */
export const after = (phase: string, ...outcome: readonly string[]): When => [[{ phase, outcome }]];

/** What is due after a smell of gas, whatever the gauge says. */
export const smellOfGas = (say = 'Stop. Ventilate, no switches or flames, get people out, and call the emergency number.'): CheckPhase =>
  checkPhase({
    id: 'smell-response',
    title: 'Smell of gas',
    afterStop: true,
    cautions: ['smell'],
    say,
    when: [[{ signal: 'smell', seen: true }]],
    items: [
      stepIf('shut', 'Supply shut, doors and windows open, nobody using switches or flames'),
      stepIf('out', 'People out and away'),
      step('called', 'Emergency number called from outside', { write: 'Report reference' }),
    ],
  });
