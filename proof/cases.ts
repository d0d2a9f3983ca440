import type { Part } from '@/core/course';
import { exampleInput, type Plan, type PlanInput, planTest } from '@/core/planning';
import { procedureById } from '@/core/procedures';
import { toSi } from '@/core/quantities';
import type { Chance } from './chance';
import type { Bounds } from './drift';
import { type Place, partNamed } from './hand';
import { air, Gas, Level, type Passing, Water, type Way } from './vessels';

/**
 * What is proved: for every procedure that can pass, a plan, the part of it that leaks, and the place that it is made on. Every place
 * keeps within what *sure* takes for granted, and goes to its ends half of the time.
 */
export interface Case {
  readonly id: string;
  readonly procedure: string;
  readonly change?: Partial<PlanInput>;
  /** Part of the plan's sight that the leak is in. */
  readonly what: string;
  readonly place: (made: Made) => Place;
}

export interface Made {
  readonly plan: Plan;
  readonly part: Part;
  /** Leak, m³/s at the part's pressure; none where the place is sound. */
  readonly size: number;
  readonly chance: Chance;
}

const still: Bounds = { perSecond: 0, least: 0, most: 0, from: 0 };
/** What nobody notices (DOMAIN 3.3). */
const unnoticed: Bounds = { perSecond: 0.05 / 60, least: 0.1, most: 0.5, from: 0 };
const weather: Bounds = { perSecond: 100 / 3600, least: 0, most: 1000, from: 3600 };
/** More than anybody would miss: a thermometer and a barometer read it. */
const warm: Bounds = { perSecond: 0.15 / 60, least: 0.1, most: 2.5, from: 0 };
const stormy: Bounds = { perSecond: 300 / 3600, least: 0, most: 2000, from: 0 };

const plans = new Map<unknown, Plan>();

/** The plan of a case, worked out once. */
export function planOf(one: Pick<Case, 'procedure' | 'change'>): Plan {
  const known = plans.get(one) ?? planned(one);
  plans.set(one, known);
  return known;
}

function planned({ procedure, change }: Pick<Case, 'procedure' | 'change'>): Plan {
  const found = procedureById(procedure);
  if (found === undefined) throw new Error(`no procedure ${procedure}`);
  const input = exampleInput(found, '2026-01-05');
  const made = planTest({ ...input, ...change, answers: { ...input.answers, ...change?.answers } });
  if (!made.ok) throw new Error(made.problems.map(({ message }) => message).join(' '));
  return made.value.plan;
}

const litresOf = ({ contents }: Part): number => ('litres' in contents ? Number(contents.litres) / 1000 : 0);

const holdAt = (plan: Plan, id: string) => {
  const phase = plan.phases.find((one) => one.id === id);
  if (phase?.kind !== 'hold') throw new Error(`no hold ${id}`);
  const unit = phase.unit ?? plan.unit;
  return { phase, middle: toSi((Number(phase.band.low) + Number(phase.band.high)) / 2, unit), unit };
};

const wayOf = ({ size, chance }: Made, at: number): Way | undefined =>
  size > 0 ? { size, at, power: chance.one(0.5, 0.7, 1) } : undefined;

/** A valve that lets by what alone would stay under its threshold in its own watch. @param stiff what moves the gauge by the whole volume, Pa */
function unperceived({ plan, part, size, chance }: Made, stiff: number, before: number, atMost = 0.95): Passing | undefined {
  // A sound system's valve holds.
  if (size === 0) return undefined;
  const phase = plan.phases.find(({ id }) => id === part.phase);
  const watch = (part.letBys ?? (phase?.kind === 'hold' ? phase.valve : []) ?? [])[0];
  if (watch === undefined) return undefined;
  const { phase: seen, middle, unit } = holdAt(plan, watch);
  if (seen.limit.kind !== 'no-rise') return undefined;
  const share = chance.happens(0.5) ? atMost : chance.between(0, atMost);
  const moved = share * toSi(Number(seen.limit.threshold), unit);
  const slows = Math.sqrt(Math.max(0.01, before - middle) / before);
  return { size: (moved * litresOf(part)) / (stiff * seen.seconds) / slows, before };
}

interface GasWay {
  /** Vessel of an instrument's role. */
  readonly sees?: (role: string) => string;
  /** Whether the leak is open to the vessel while a phase stands. */
  readonly open?: (phase: string, vessel: string) => boolean;
  readonly others?: readonly string[];
  readonly fed?: (plan: Plan, phase: string) => number;
  /** Pressure before the shut valve against that of the hold. */
  readonly before?: (hold: number, chance: Chance) => number;
  readonly points?: (made: Made) => Place['points'];
  readonly warms?: Bounds;
  readonly presses?: Bounds;
  readonly vessel?: string;
}

/** A place that holds gas. */
const gas =
  ({ sees, open, others = [], fed, before, points, warms = unnoticed, presses = weather, vessel = 'gauge' }: GasWay = {}): Case['place'] =>
  (made) => {
    const { plan, part, chance } = made;
    const { middle } = holdAt(plan, part.phase);
    const way = wayOf({ ...made, size: made.size / Number(part.factor ?? '1') }, middle);
    const valve = before === undefined ? undefined : unperceived(made, air, before(middle, chance));
    return {
      vessels: Object.fromEntries(['gauge', ...others].map((name) => [name, new Gas(litresOf(part))])),
      sees: sees ?? ((role) => (others.includes(role) ? role : 'gauge')),
      leak: (name, phase) => (name === vessel && (open?.(phase, name) ?? true) ? way : undefined),
      valve: (name) => (name === vessel ? valve : undefined),
      fed: (phase) => fed?.(plan, phase) ?? middle,
      warms: { ...warms, toEnds: made.size > 0 },
      presses: { ...presses, toEnds: made.size > 0 },
      ...(points === undefined ? {} : { points: points(made) }),
    };
  };

interface WaterWay {
  readonly creep?: (chance: Chance) => number;
  readonly valved?: boolean;
  readonly points?: (made: Made, water: Water) => Place['points'];
  /** Air at the most that the claim takes for granted. */
  readonly warms?: Bounds;
}

/** A place that is full of water, with no more air than the claim takes for granted. */
const water =
  ({ creep = () => 0, valved = false, points, warms = unnoticed }: WaterWay = {}): Case['place'] =>
  (made) => {
    const { plan, part, chance } = made;
    const { contents } = part;
    if (contents.kind !== 'water') throw new Error('no water');
    const { middle } = holdAt(plan, part.phase === 'make-up' ? 'hold' : part.phase);
    const softness = Number(contents.softness) / 1e9;
    const share = (made.size > 0 && chance.happens(0.5) ? 1 : chance.between(0.05, 0.95)) * (Number(contents.airPercent) / 100);
    const soft = contents.expansionPpm === undefined;
    const made1 = {
      softness,
      air: (share * (middle + air)) / air,
      expansion: Number(contents.expansionPpm ?? '0') * 1e-6,
      creep: creep(chance),
    };
    const vessel = new Water(litresOf(part), made1);
    const stiff = 1 / (softness + share / (middle + air));
    const supply = part.supply === undefined ? middle * 2 : toSi(Number(part.supply.value), plan.unit);
    const way = wayOf(made, middle);
    // By the stiffness that this place has.
    const valve = valved ? unperceived(made, stiff, supply) : undefined;
    return {
      vessels: { gauge: vessel },
      sees: () => 'gauge',
      leak: () => way,
      valve: () => valve,
      fed: () => supply,
      warms: soft ? still : { ...warms, toEnds: made.size > 0 },
      presses: still,
      ...(points === undefined ? {} : { points: points(made, vessel) }),
    };
  };

const inH2O = (value: number): number => toSi(value, 'inH2O');
const seen =
  (value: (phase: string) => number) =>
  (): Place['points'] =>
  ({ point }) =>
    value(point.id);

export const cases: readonly Case[] = [
  {
    id: 'domestic, pipework',
    procedure: 'domestic-gas-millibar',
    what: 'the pipework',
    place: gas({ before: (at, chance) => at * chance.between(1.05, 3.5) }),
  },
  {
    id: 'domestic, appliances with a permitted drop',
    procedure: 'domestic-gas-millibar',
    what: 'the appliances, where a drop is permitted',
    place: gas({
      before: (at, chance) => at * chance.between(1.05, 3.5),
      open: (phase) => !phase.includes('pipework') && phase !== 'isolate',
    }),
  },
  {
    id: 'meter turn-on',
    procedure: 'meter-turn-on-inches',
    what: 'the piping after the inlet stop',
    place: gas({ before: (at, chance) => at * chance.between(1.3, 5), fed: () => inH2O(7.5), sees: () => 'gauge' }),
  },
  {
    id: 'meter turn-on with thermometer',
    procedure: 'meter-turn-on-inches',
    change: { weather: { thermometer: thermometer() } },
    what: 'the piping after the inlet stop',
    place: gas({ before: (at, chance) => at * chance.between(1.3, 5), fed: () => inH2O(7.5), sees: () => 'gauge', warms: warm }),
  },
  { id: 'gas piping, to the stops', procedure: 'gas-piping-psi', what: 'the piping up to the stops', place: gas({ sees: () => 'gauge' }) },
  {
    id: 'gas piping, controls',
    procedure: 'gas-piping-psi',
    what: 'the controls, with the stops open',
    place: gas({ sees: () => 'gauge', open: (phase) => phase === 'hold-open' }),
  },
  {
    id: 'gas piping overnight, thermometer and barometer',
    procedure: 'gas-piping-psi',
    change: { answers: { stages: 'first', asked: '600 min' }, weather: { thermometer: thermometer(), barometer: barometer() } },
    what: 'the piping up to the stops',
    place: gas({ sees: () => 'gauge', warms: warm, presses: stormy }),
  },
  {
    id: 'propane vehicle',
    procedure: 'propane-vehicle',
    what: 'the vehicle’s gas piping',
    place: gas({
      before: () => inH2O(13),
      fed: (_, phase) => (phase === 'lock-up' ? inH2O(12) : inH2O(11)),
      points: seen(() => inH2O(10.5)),
    }),
  },
  {
    id: 'propane tank, after the regulator',
    procedure: 'propane-tank-check',
    what: 'the piping after the last regulator',
    place: gas({ others: ['low'], vessel: 'low', points: seen(() => toSi(100, 'psi')) }),
  },
  {
    id: 'propane tank, before it',
    procedure: 'propane-tank-check',
    what: 'the piping before it, as the tank’s gauge sees it',
    place: gas({ others: ['low'], points: seen(() => toSi(100, 'psi')) }),
  },
  { id: 'gas leak rate, existing', procedure: 'gas-leak-rate', what: 'the line', place: gas({ sees: () => 'gauge' }) },
  {
    id: 'gas leak rate, new',
    procedure: 'gas-leak-rate',
    change: { answers: { work: 'new', medium: 'air' } },
    what: 'the new pipework',
    place: gas({ sees: () => 'gauge' }),
  },
  {
    id: 'water isolation, copper',
    procedure: 'water-isolation-hold',
    what: 'the yard line and the house',
    place: water({ valved: true, points: supplyRead }),
  },
  {
    id: 'water isolation, PEX',
    procedure: 'water-isolation-hold',
    change: { answers: { pipe: 'PEX' } },
    what: 'the yard line and the house',
    place: water({ valved: true, points: supplyRead }),
  },
  {
    id: 'drain level',
    procedure: 'drain-level-hold',
    what: 'the drain behind the ball, up to the level',
    place: (made) => {
      const { part, chance } = made;
      if (part.contents.kind !== 'level') throw new Error('no level');
      const way: Way | undefined = made.size > 0 ? { size: made.size, at: 1, power: 1 } : undefined;
      const ball = toSi(45, 'psi');
      const held = chance.between(0.97, 1);
      return {
        vessels: { rule: new Level(Number(part.contents.squareCm) / 1e4), gauge: new Gas(0.01) },
        sees: (role) => (role === 'rule' ? 'rule' : 'gauge'),
        leak: (name, phase) => (name === 'rule' && phase !== 'prepare' ? way : undefined),
        valve: () => undefined,
        fed: () => 0,
        warms: still,
        presses: still,
        points: ({ hand }) => (hand.second < 600 ? ball : ball * held),
      };
    },
  },
  { id: 'vehicle water', procedure: 'vehicle-water-air', what: 'the plumbing', place: gas() },
  {
    id: 'heating, copper',
    procedure: 'heating-hydraulic',
    change: { answers: { pipe: 'copper', components: '' }, pipes: '22cu 40\n15cu 60' },
    what: 'the system',
    place: water({ points: pumped }),
  },
  {
    id: 'heating, multilayer',
    procedure: 'heating-hydraulic',
    what: 'the system',
    place: water({ points: pumped, creep: (chance) => chance.between(0, 2e-5) }),
  },
  { id: 'underfloor', procedure: 'underfloor-manifold', what: 'the loops', place: water({ creep: (chance) => chance.between(0, 1e-4) }) },
  {
    id: 'underfloor, air',
    procedure: 'underfloor-manifold',
    change: { answers: { medium: 'air', frost: 'yes' } },
    what: 'the loops',
    place: gas(),
  },
  {
    id: 'water main',
    procedure: 'water-main-make-up',
    what: 'the main',
    place: water({
      points:
        (made, main) =>
        ({ point, quantity, hand }) => {
          const { start, low } = readIn(hand);
          const unit = made.plan.gauge.unit;
          const tolerance = Math.max(toSi(1, 'psi'), toSi(Number(made.plan.gauge.readability), unit));
          if (point.id === 'pumped') return main.at(start) - main.at(hand.truth('gauge'));
          if (point.id === 'back') {
            // One that has risen is let down to its start.
            if (quantity === 'pressure') {
              const to = start - made.chance.between(0, 0.9) * tolerance;
              hand.bring(to, 'gauge');
            }
            return hand.truth('gauge');
          }
          if (quantity === 'pressure') {
            const from = hand.truth('gauge');
            hand.bring(Math.min(from, low + made.chance.between(0, 0.9) * tolerance), 'gauge');
            drawn.set(hand, Math.max(0, main.at(from) - main.at(hand.truth('gauge'))));
            return hand.truth('gauge');
          }
          return drawn.get(hand) ?? 0;
        },
    }),
  },
  {
    id: 'refrigerant, low side',
    procedure: 'refrigerant-nitrogen',
    what: 'low side',
    place: gas({ others: ['high'] }),
  },
  {
    id: 'refrigerant, high side, with thermometer',
    procedure: 'refrigerant-nitrogen',
    change: { weather: { thermometer: thermometer() } },
    what: 'high side',
    place: gas({ others: ['high'], vessel: 'high', warms: warm }),
  },
  { id: 'pool line', procedure: 'pool-lines-pressure', what: 'the line', place: water() },
  {
    id: 'ducts',
    procedure: 'duct-tightness',
    what: 'the ducts',
    place: (made) => {
      const n = made.chance.between(0.57, 0.73);
      const at = new Map<unknown, number>();
      return {
        vessels: { gauge: new Gas(1) },
        sees: () => 'gauge',
        leak: () => undefined,
        valve: () => undefined,
        fed: () => 0,
        warms: still,
        presses: still,
        points: ({ point, quantity }) => {
          const pa = toSi(Number(point.aim ?? '25'), made.plan.gauge.unit) * made.chance.between(0.998, 1.002);
          if (quantity === 'pressure') {
            at.set(point.id, pa);
            return pa;
          }
          return (made.size > 0 ? made.size : toSi(8, 'CFM')) * ((at.get(point.id) ?? pa) / 25) ** n;
        },
      };
    },
  },
  { id: 'rig check', procedure: 'rig-check', what: 'the rig', place: gas({ sees: () => 'gauge' }) },
];

const drawn = new WeakMap<object, number>();

function supplyRead({ part, plan }: Made): Place['points'] {
  return () => toSi(Number(part.supply?.value ?? '4'), plan.unit);
}

/** The compression test: raised to each point's pressure, with the water that it took. */
function pumped({ plan }: Made, system: Water): Place['points'] {
  return ({ point, quantity, hand }) => {
    if (quantity === 'pressure') {
      hand.bring(toSi(Number(point.aim), plan.unit), 'gauge');
      return hand.truth('gauge');
    }
    return system.at(hand.truth('gauge'));
  };
}

/** What the hand has read of the hold so far, Pa. */
function readIn({ events, plan }: { readonly events: readonly unknown[]; readonly plan: Plan }): {
  readonly start: number;
  readonly low: number;
} {
  const figures = (
    events as readonly { readonly type: string; readonly phase?: string; readonly quantity?: string; readonly value: string }[]
  )
    .filter(({ type, phase, quantity }) => type === 'reading' && phase === 'hold' && quantity === 'pressure')
    .map(({ value }) => toSi(Number(value), plan.gauge.unit));
  return { start: figures[0] ?? 0, low: Math.min(...figures) };
}

function thermometer() {
  return {
    id: 'proof-thermometer',
    name: 'Pipe clip',
    kind: 'digital',
    unit: 'C',
    readability: '0.1',
    rangeLow: '-40',
    rangeHigh: '90',
    serial: 'P-1',
    simulated: false,
    calibration: { needed: true, last: '2026-01-01', due: '2027-01-01' },
  } as const;
}

function barometer() {
  return {
    ...thermometer(),
    id: 'proof-barometer',
    name: 'Barometer',
    kind: 'barometer',
    unit: 'hPa',
    rangeLow: '500',
    rangeHigh: '1100',
  } as const;
}

export { partNamed };
