import type { RunEvent } from '../judging/events';
import type { Judgement } from '../judging/judge';
import type { Plan } from '../planning/plan';

/** How dates are written on a paper. */
export const paperLocales = ['en-GB', 'en-US'] as const;
export type PaperLocale = (typeof paperLocales)[number];

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

/** Who signs a paper, in the order in which they do; the supervisor where the firm wants a countersign. */
export const signerRoles = ['technician', 'customer', 'supervisor'] as const;
export type SignerRole = (typeof signerRoles)[number];

export interface Signature {
  readonly role: SignerRole;
  readonly name: string;
  /** Why nobody signed; there are no strokes then. */
  readonly absent?: string;
  /** They were there and would not sign. */
  readonly refused?: true;
  /** Signed by the private link, on a device of their own. */
  readonly remote?: true;
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

/** The firm as it stood when the paper was issued; what it never stated is left out. */
export interface RecordedFirm {
  readonly name: string;
  readonly address?: string;
  readonly registration?: string;
  /** Numbers to ring when gas is smelt or water runs, and that of the supplier. */
  readonly emergency?: string;
  readonly supplier?: string;
  /** SHA-256 of its logo as papers carry it. */
  readonly logo?: string;
  readonly sheet?: 'A4' | 'letter';
  readonly locale?: PaperLocale;
}

/** The open record: all that is needed to judge its tests again, by anyone. A paper holds one test or several. */
export interface TestRecord {
  readonly format: typeof recordFormat;
  readonly version: typeof recordVersion;
  readonly firm?: RecordedFirm;
  readonly site?: { readonly name: string; readonly address: string; readonly occupier: string };
  readonly tests: readonly RecordedTest[];
  /** Everybody who wrote something in it, by the id that stands as its author. */
  readonly people?: readonly { readonly id: string; readonly name: string; readonly licence?: string }[];
  /**
   * Photographs of each run by the hash in their event, and the hash of the picture as it is kept; without that one the picture is
   * named and was never sent.
   */
  readonly photos?: readonly {
    readonly run: string;
    readonly hash: string;
    readonly stored?: string;
    /** Hash of the smaller copy that the paper carries. */
    readonly copy?: string;
    readonly takenAt: number;
  }[];
  readonly certificate?: {
    readonly number: string;
    readonly issuedAt: number;
    readonly issuedOn: string;
    /** Minutes east of UTC where the firm is, at that moment. */
    readonly offsetMinutes: number;
    /** Layout of the pages that were sealed with it. */
    readonly layout: string;
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
