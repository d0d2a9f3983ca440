import type { TestVerdict } from '../course';
import type { HouseRule, Variant } from '../planning';
import type { AnyInstrument } from '../sizing';
import type { Calibration } from './calibration';
import type { ShownFollowUp } from './follow-ups';
import type { Thing, ThingKind } from './things';

/** What a plan was made from, so that another can start there. */
export interface PlanStart {
  /** Local date. */
  readonly on: string;
  readonly variant?: string;
  readonly answers: Readonly<Record<string, string>>;
  readonly pipes: string;
  readonly statedVolume: string;
  readonly gauge: string;
  /** Instruments beside the gauge, by role. */
  readonly instruments: Readonly<Record<string, string>>;
  readonly thermometer?: string;
  readonly barometer?: string;
}

/** A test of a system as its history shows it. */
export interface History {
  readonly test: string;
  readonly systemId: string;
  readonly run?: string;
  readonly procedure?: string;
  readonly verdict: TestVerdict;
  /** When it was begun, ms. */
  readonly at: number;
  readonly technician: string;
  readonly attempts: number;
  readonly simulated: boolean;
  readonly certificate?: string;
  /** What its guard gauge gives alarm about. */
  readonly alarm?: string;
  readonly start?: PlanStart;
}

/** An instrument with what a plan needs of it beside its own fields. */
export type KnownInstrument = AnyInstrument & {
  readonly version: number;
  readonly putAway: boolean;
  readonly calibrationNeeded: boolean;
  /** The newest first. */
  readonly calibrations: readonly (Calibration & { readonly id: string })[];
};

/** Two versions of a field that people made of a thing from the same beginning. */
export interface KeptClash {
  readonly id: string;
  readonly thing: ThingKind;
  readonly of: string;
  readonly field: string;
  readonly other: unknown;
  readonly author: string;
  readonly at: number;
}

/** What one sync brings a device: the register of the sites that it takes along, as differences from what it has. */
export interface Along {
  /** Names the register; another one has other places, and everything is asked for anew. */
  readonly epoch: string;
  /** Where the next difference begins. */
  readonly since: string;
  /** When this was read, by the server's clock: a plan says by it which register it was made from. */
  readonly asOf: number;
  readonly person: { readonly userId: string; readonly firmId: string; readonly name: string; readonly role: string };
  /** Takes what this device works on also when its session is over, and opens nothing else. */
  readonly delivery: string;
  readonly firm: { readonly id: string; readonly name: string; readonly emergencyNumber: string; readonly demo: boolean };
  readonly people: readonly { readonly id: string; readonly name: string; readonly role: string }[];
  /** Open follow-ups of whoever asks, and those that are anybody's. */
  readonly followUps: readonly ShownFollowUp[];
  readonly houseRules: readonly HouseRule[];
  /** The firm's own procedures, each in its newest version. */
  readonly ownProcedures: readonly Variant[];
  /** Every site that this device takes along; whatever else it has goes. */
  readonly scope: readonly string[];
  readonly sites: readonly Thing<'site'>[];
  readonly systems: readonly Thing<'system'>[];
  readonly components: readonly Thing<'component'>[];
  readonly equipment: readonly Thing<'equipment'>[];
  readonly visits: readonly Thing<'visit'>[];
  readonly instruments: readonly KnownInstrument[];
  readonly histories: readonly History[];
  readonly clashes: readonly KeptClash[];
  /** Clashes that somebody has settled. */
  readonly settled: readonly string[];
}

/** What a device says of itself when it asks for differences. */
export interface AlongAsked {
  readonly epoch: string;
  readonly since: string;
  /** Sites that it has whole. */
  readonly have: readonly string[];
  /** Sites that somebody asked to keep on it. */
  readonly pinned: readonly string[];
}
