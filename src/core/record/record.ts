import type { RunEvent } from '../judging/events';
import type { Judgement } from '../judging/judge';
import type { Plan } from '../planning/plan';

export const recordFormat = 'vast-stone-record';
export const recordVersion = 1;

/** One run of a plan. A test keeps all its attempts, the failed ones too. */
export interface Attempt {
  readonly run: string;
  readonly number: number;
  readonly plan: Plan;
  readonly events: readonly RunEvent[];
  /** As judged when it was sealed; judging again later reports a difference and never replaces it. */
  readonly judgement?: Judgement;
}

export interface Signature {
  readonly role: 'technician' | 'customer';
  readonly name: string;
  /** Why nobody could sign; there are no strokes then. */
  readonly absent?: string;
  readonly signedAt: number;
  /** Pen strokes; each a list of x, y in hundredths of the field's width. */
  readonly strokes: readonly (readonly number[])[];
  /** SHA-256 of the canonical judgement that was signed. */
  readonly judgementHash: string;
}

export interface Seal {
  readonly algorithm: 'ed25519';
  readonly keyId: string;
  /** Raw public key, base64. */
  readonly publicKey: string;
  /** Hash of the firm's seal before this one; 64 zeros for the first. */
  readonly previous: string;
  readonly sealedAt: number;
  /** SHA-256 of the canonical record without its seal. */
  readonly hash: string;
  /** Ed25519 over the canonical {hash, keyId, previous, sealedAt}, base64. */
  readonly signature: string;
}

/** One test under a paper: its system, its particulars, and every attempt, the failed ones too. */
export interface RecordedTest {
  readonly system?: { readonly name: string; readonly kind: string; readonly components: readonly string[] };
  readonly details?: {
    readonly id: string;
    readonly jobOrigin: string;
    readonly visualInspection: 'done' | 'not done';
    readonly meterNumber: string;
    readonly meterReading: string;
    /** Account id of whoever began it; its name stands under `people`. */
    readonly technician: string;
  };
  readonly attempts: readonly Attempt[];
}

/** The open record: all that is needed to judge its tests again, by anyone. A paper holds one test or several. */
export interface TestRecord {
  readonly format: typeof recordFormat;
  readonly version: typeof recordVersion;
  readonly firm?: { readonly name: string };
  readonly site?: { readonly name: string; readonly address: string; readonly occupier: string };
  readonly tests: readonly RecordedTest[];
  /** Everybody who wrote something in it, by the id that stands as its author. */
  readonly people?: readonly { readonly id: string; readonly name: string }[];
  /**
   * Photographs of each run by the hash in their event, and the hash of the picture as it is kept; without that one the picture is
   * named and was never sent.
   */
  readonly photos?: readonly { readonly run: string; readonly hash: string; readonly stored?: string; readonly takenAt: number }[];
  readonly certificate?: {
    readonly number: string;
    readonly issuedAt: number;
    readonly issuedOn: string;
    readonly checkCode: string;
    readonly checkAddress: string;
    /** Version of the catalogue that the paper's sentences were rendered from; no sentence is sealed. */
    readonly catalogue: string;
    readonly corrects?: { readonly number: string; readonly reason: string };
  };
  readonly signatures?: readonly Signature[];
  readonly seal?: Seal;
}

/** The name behind an author's id; the id itself where the record names nobody. */
export const nameOf = ({ people = [] }: Pick<TestRecord, 'people'>, id: string): string => people.find((one) => one.id === id)?.name ?? id;

/** Every attempt of every test, in order. */
export const attemptsOf = ({ tests }: Pick<TestRecord, 'tests'>): readonly Attempt[] => tests.flatMap(({ attempts }) => attempts);
