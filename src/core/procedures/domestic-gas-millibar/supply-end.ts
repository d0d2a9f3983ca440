import type { CheckItem } from '../../course/phases';
import type { ConclusionIn, WhenIn } from '../card';
import { edge, step, stepIf } from '../phase-shapes';
import { card, type Names } from './names';
import type { Input } from './questions';

const { after, on } = card;

/** What the end towards the supply brings into the course: a valve that is proved, or a gap that needs no proof. */
export interface SupplyEnd {
  /** Phases that there are not. */
  readonly without: ReadonlySet<string>;
  readonly cautions: readonly string[];
  readonly prepare: readonly CheckItem[];
  /** When the installation is stabilised, and the pipework alone, and how it is raised. */
  readonly settle: { readonly when: WhenIn<Names>; readonly say: string };
  readonly settlePipework: { readonly when: WhenIn<Names>; readonly say: string };
  /** What a rise in the hold reopens, and the watches that prove the valve of each hold. */
  readonly afterRise: 'let-by' | undefined;
  readonly watches: readonly ('let-by' | 'let-by-again' | 'let-by-pipework')[];
  /** Before and after the supply is reopened; and where no tightness was proved. */
  readonly rejoin: readonly CheckItem[];
  readonly rejoined: readonly CheckItem[];
  readonly leave: readonly CheckItem[];
  readonly boundary: { readonly id: string; readonly label: string; readonly provedBy?: WhenIn<Names> };
  readonly conclusions: readonly ConclusionIn<Names>[];
}

const steady: WhenIn<Names> = [[on('let-by', 'steady', 'fall')], [on('let-by-again', 'steady', 'fall')]];

const valve: SupplyEnd = {
  without: new Set(),
  cautions: [],
  prepare: [],
  settle: { when: steady, say: 'Open the valve slowly, raise into the band, shut it, and read the gauge. Re-adjust if it drifts out.' },
  settlePipework: {
    when: [
      [on('isolate', 'done'), on('let-by', 'steady')],
      [on('isolate', 'done'), on('let-by-again', 'steady')],
      [on('let-by-pipework', 'steady', 'fall')],
    ],
    say: 'Raise into the band again, shut the valve, and read the gauge.',
  },
  afterRise: 'let-by',
  watches: ['let-by', 'let-by-again', 'let-by-pipework'],
  rejoin: [],
  rejoined: [],
  leave: [],
  boundary: { id: 'supply-valve', label: 'Supply valve', provedBy: steady },
  conclusions: [
    { when: after('let-by-seat', 'bubbles'), verdict: 'fail', reason: 'let-by-confirmed' },
    { when: after('let-by-again', 'rise'), verdict: 'fail', reason: 'let-by-repeated' },
    { when: after('let-by-pipework', 'rise'), verdict: 'inconclusive', reason: 'valve-passes', about: 'let-by-pipework' },
  ],
};

/** Parted from the valve and capped, there is no valve left to prove. */
const parted: SupplyEnd = {
  without: new Set<keyof Names>(['let-by', 'let-by-seat', 'seat-remade', 'let-by-again', 'let-by-pipework', 'let-by-report']),
  cautions: ['bond'],
  prepare: [edge('parted', 'Bonded across first; valve parted from the meter and its outlet plugged; the meter’s inlet capped')],
  settle: {
    when: after('zero', 'zeroed'),
    say: 'Raise air into the band with the hand pump, shut it off, and read the gauge. Re-adjust if it drifts out.',
  },
  settlePipework: { when: after('isolate', 'done'), say: 'Raise air into the band again, shut the pump off, and read the gauge.' },
  afterRise: undefined,
  watches: [],
  rejoin: [step('joined', 'Meter’s inlet joined to the valve again, the bond off last')],
  rejoined: [step('joined-fluid', 'Leak-detection fluid on the joint at the meter’s inlet shows no bubbles')],
  leave: [stepIf('joined', 'Meter’s inlet joined again or capped, the valve’s outlet plugged, the bond off last')],
  boundary: { id: 'parted', label: 'Cap on the parted inlet' },
  conclusions: [],
};

export const supplyEnd = (answers: Input['answers']): SupplyEnd => (answers['supply-end'] === 'parted' ? parted : valve);

/** The way from the one to the other. */
export const plug = { answer: 'supply-end', value: 'parted', label: 'Part the meter from the valve and cap it, so that nothing is let by' };
