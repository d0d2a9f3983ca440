import type { DisturbanceKind } from '../course/disturbances';
import type { MeasurePoint, Part, ReadQuantity } from '../course/phases';
import type { PlanShape as Plan } from '../course/plan-shape';
import { decimal, fromSi, multiply, toText, type Unit } from '../quantities';

/** What has been done to a plant: a simulation is a function of plant, these, and time. */
export interface PlantAct {
  readonly atMs: number;
  /** Feeding leaves the supply open; raising shuts it again at the pressure reached. */
  readonly action: 'zero' | 'raise' | 'feed' | 'isolate' | 'reconnect' | 'disconnect';
  /** Reached by raising, or by letting down: a pressure, Pa gauge, or a level, m. */
  readonly to?: number;
  /** Role of the instrument on the circuit that it is done to, where a plant has several. */
  readonly of?: string;
}

/** A plant between acts. Asking at other moments changes nothing. */
export interface PlantTrack {
  /** What the instrument of a role shows, as a decimal text of its readability; the plan's gauge when no role is named. */
  shownAt(ms: number, role?: string): string;
  /** Pipe temperature, °C, and the atmosphere, hPa. */
  temperatureAt(ms: number): number;
  barometerAt(ms: number): number;
  /** A figure at a point of a measuring phase; undefined where the instrument shows nothing, being below its range. */
  measuredAt(ms: number, point: MeasurePoint, quantity: ReadQuantity): string | undefined;
}

/** What is seen where a phase asks to look, by phase. */
export type Seen = Readonly<Record<string, string | undefined>>;

/** A hidden fault of a plant, for the simulated gauge, the tests and training. */
export interface Scenario<S extends Seen = Seen> {
  readonly id: string;
  readonly label: string;
  /** All is well where nothing is named. */
  readonly sees?: S;
  /** The fault shows only with somebody who never zeroes the gauge. */
  readonly forgetsZero?: boolean;
  /** The fault shows only with somebody who raises in one go, whatever the steps say. */
  readonly hasty?: boolean;
  /** What somebody in the house does in the first tightness hold: noted, and the hold is repeated. */
  readonly disturbs?: DisturbanceKind;
}

/** A plant to try a plan's claim on: a part of it that leaks so much, in a world that keeps within what *sure* takes for granted (DOMAIN 3.14). */
export interface Trial {
  readonly part: Part;
  /** At the part's pressure, m³/s of what it is tested with; none where it is sound. */
  readonly leakM3s: number;
  /** Warming over the part's hold, K, and the barometer's change in it, Pa. */
  readonly warms: number;
  readonly presses: number;
  /** What the valve lets by in its own watch, as a share of the rise that would be called a let-by. */
  readonly letBy: number;
  /** Trapped air, as a share of what the claim takes for granted. */
  readonly air: number;
}

/** A kind of plant: its scenarios, and the plant that a plan describes with one of them, or that a claim is tried on. */
export interface PlantModel {
  readonly scenarios: readonly Scenario[];
  readonly track: (plan: Plan, scenario: string, seed: number, acts: readonly PlantAct[]) => PlantTrack;
  readonly tried?: (plan: Plan, trial: Trial, seed: number, acts: readonly PlantAct[]) => PlantTrack;
}

/** A value in SI as an instrument of a unit and readability shows it: the nearest of its steps. */
export const shownAs = (si: number, unit: Unit, readability: string): string => {
  const steps = Math.round(fromSi(si, unit) / Number(readability));
  return toText(multiply({ digits: BigInt(steps), scale: 0 }, decimal(readability)));
};
