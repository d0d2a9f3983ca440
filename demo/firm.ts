import type { SystemKind } from '@/core/procedures';
import type { Said } from '@/core/register';

/** The invented firm, its people, sites and gauges. Nobody and nothing here exists. */
export const firm = { name: 'Lindqvay Pipework & Air', emergencyNumber: '0000 555 (demo emergency desk)' };
/** What it states of itself on its papers. */
export const firmSettings = {
  ...firm,
  address: '4 Ropewalk Yard, Nethermere',
  registration: 'NR-20417',
  supplierNumber: '0000 557 (demo gas and water supplier)',
  mail: 'office@lindqvay.example',
  zone: 'UTC',
  locale: 'en-GB',
  sheet: 'A4',
  countersign: false,
} as const;
export const otherFirm = { name: 'Ostrel Fitters', emergencyNumber: '0000 556 (demo emergency desk)' };

export const demoPassword = 'harbour-demo-1';

export const people = [
  { name: 'Iola Marsh', email: 'iola@lindqvay.invalid', role: 'technician', licence: 'PW-3107' },
  { name: 'Tomasz Brandel', email: 'tomasz@lindqvay.invalid', role: 'technician', licence: 'PW-3342' },
  { name: 'Wren Adeyo', email: 'wren@lindqvay.invalid', role: 'supervisor', licence: 'PW-1180' },
  { name: 'Pernilla Okes', email: 'pernilla@lindqvay.invalid', role: 'office', licence: '' },
] as const;

export const otherPeople = [{ name: 'Ruben Falk', email: 'ruben@ostrel.invalid', role: 'technician' }] as const;

interface DemoSystem {
  readonly name: string;
  /** Gas where nothing is said. */
  readonly kind?: SystemKind;
  readonly pipes: string;
  readonly components: readonly Partial<Said<'component'>>[];
  readonly answers?: Readonly<Record<string, string>>;
}

export const sites: readonly {
  readonly name: string;
  readonly address: string;
  readonly occupier: string;
  readonly systems: readonly DemoSystem[];
}[] = [
  {
    name: 'Cannery Flats',
    address: '4 Old Slipway, Brinehaven',
    occupier: 'Brinehaven Homes',
    systems: [
      {
        name: 'Gas, flat 1',
        pipes: '22cu 9.5\n15cu 6',
        components: [
          { kind: 'Boiler', model: '24 kW', serial: 'KB-2207' },
          { kind: 'Hob', model: 'four burners' },
        ],
      },
      {
        name: 'Gas, flat 2',
        pipes: '22cu 11\n15cu 7.5',
        components: [
          { kind: 'Boiler', model: '24 kW', serial: 'KB-2208' },
          { kind: 'Hob', model: 'four burners' },
        ],
      },
      {
        name: 'Gas, flat 3',
        pipes: '22cu 12\n15cu 5',
        components: [{ kind: 'Boiler', model: '24 kW', serial: 'KB-2209' }, { kind: 'Cooker' }],
      },
      {
        name: 'Gas, flat 4',
        pipes: '22cu 8\n15cu 9',
        components: [
          { kind: 'Boiler', model: '24 kW', serial: 'KB-2210' },
          { kind: 'Hob', model: 'two burners' },
        ],
        answers: { meter: 'none' },
      },
      { name: 'Gas, caretaker’s rooms', pipes: '28cu 6\n22cu 4', components: [{ kind: 'Water heater' }, { kind: 'Gas fire' }] },
      {
        name: 'Heating, stair A',
        kind: 'heating',
        pipes: '16x2pex 90\n20x2pex 24',
        components: [
          { kind: 'Manifold', rating: '6bar' },
          { kind: 'Radiator', rating: '10bar', height: '+3m' },
        ],
        answers: { pipe: 'multilayer', components: 'Manifold 6bar\nRadiator 10bar +3m' },
      },
    ],
  },
  {
    name: 'Millrace Bakery',
    address: '17 Weir Lane, Brinehaven',
    occupier: 'The Millrace Bakery',
    systems: [
      {
        name: 'Gas, bakehouse',
        pipes: '35cu 6\n28cu 5',
        components: [{ kind: 'Deck oven' }, { kind: 'Water heater' }],
        answers: { meter: 'diaphragm-16', pipe: '>28-35' },
      },
      {
        name: 'Gas, flat above',
        pipes: '22cu 7\n15cu 4',
        components: [
          { kind: 'Boiler', model: '18 kW' },
          { kind: 'Hob', model: 'four burners' },
        ],
      },
      {
        name: 'Gas meter set, shop',
        pipes: '1-1/4sch40 15ft\n3/4sch40 35ft',
        components: [{ kind: 'Air heater' }, { kind: 'Water heater' }],
        answers: { dial: 'always' },
      },
      {
        name: 'Ducts, bakehouse',
        kind: 'duct',
        pipes: '',
        components: [{ kind: 'Air handler' }, { kind: 'Eight registers' }],
        answers: { floor: '400', baseline: '1.2', 'baseline-date': '2026-06-01' },
      },
    ],
  },
  {
    name: 'Harbour Baths',
    address: '1 Lido Terrace, Brinehaven',
    occupier: 'Brinehaven Town Baths',
    systems: [
      { name: 'Gas, kiosk', pipes: '22cu 5\n15cu 3', components: [{ kind: 'Griddle' }, { kind: 'Water heater' }] },
      {
        name: 'Returns, main pool',
        kind: 'pool',
        pipes: '',
        components: [{ kind: 'Return 1' }, { kind: 'Return 2' }, { kind: 'Return 3' }],
        answers: {
          line: 'Returns',
          openings: 'Equipment end\nReturn 1\nReturn 2 hook\nReturn 3',
          trials: 'Return 1: Return 2, Return 3\nSkimmer 1: Skimmer 2',
          size: '2',
        },
      },
      {
        name: 'Main drain, main pool',
        kind: 'pool',
        pipes: '',
        components: [{ kind: 'Main drain' }],
        answers: { line: 'Main drain', openings: 'Main drain\nEquipment end' },
      },
    ],
  },
  {
    name: 'Slate Yard Workshops',
    address: '22 Quarry Road, Upper Brine',
    occupier: 'Slate Yard Tenants',
    systems: [
      { name: 'Gas, unit 3', pipes: '28cu 8\n22cu 6', components: [{ kind: 'Air heater' }] },
      { name: 'Gas, unit 5', pipes: '28cu 9', components: [{ kind: 'Air heater' }, { kind: 'Kiln' }] },
      {
        name: 'Gas piping, new unit 7',
        pipes: '1-1/4sch40 60ft\n1sch40 45ft\n3/4sch40 80ft',
        components: [{ kind: 'Air heater' }, { kind: 'Forge' }],
      },
      { name: 'Gas riser, units 1 to 4', pipes: '28cu 24\n22cu 30\n15cu 18', components: [{ kind: 'Four air heaters' }] },
      {
        name: 'Propane tank, glazing shed',
        kind: 'propane',
        pipes: '1/2sch40 30ft',
        components: [
          { kind: 'Range', make: 'Ostra', model: '4', serial: '1207' },
          { kind: 'Kiln', make: 'Vello', model: '2', serial: '88' },
          { kind: 'Heater', serial: '3301' },
        ],
        answers: {
          count: '3',
          appliances: 'Range Ostra 4, serial 1207\nKiln Vello 2, serial 88\nHeater, serial 3301',
          'last-visit': 'Range Ostra 4, serial 1207\nKiln Vello 2, serial 88\nHeater, serial 2977',
        },
      },
    ],
  },
  {
    name: 'Slab Annex',
    address: '4b Old Slipway, Brinehaven',
    occupier: 'Brinehaven Homes',
    systems: [
      {
        name: 'Gas, annex',
        pipes: '20x2pex 14\n16x2pex 6',
        components: [
          { kind: 'Boiler', model: '18 kW' },
          { kind: 'Hob', model: 'two burners' },
        ],
      },
      {
        name: 'Water, annex',
        kind: 'water',
        pipes: '22cu 18\n15cu 32',
        components: [{ kind: 'Kitchen' }, { kind: 'Bathroom' }, { kind: 'Garden tap' }],
      },
      { name: 'Drains, annex', kind: 'drain', pipes: '', components: [{ kind: 'Kitchen branch' }, { kind: 'Bathroom branch' }] },
      {
        name: 'Underfloor heating, annex',
        kind: 'heating',
        pipes: '16x2pex 320',
        components: [{ kind: 'Loop 1 Kitchen' }, { kind: 'Loop 2 Hall' }, { kind: 'Loop 3 Bath' }, { kind: 'Loop 4 Bedroom' }],
        answers: { loops: '1 Kitchen\n2 Hall\n3 Bath\n4 Bedroom', components: 'Manifold 8bar\nFlow meters 8bar' },
      },
    ],
  },
  {
    name: 'Cold Room Quay',
    address: '9 Ice Wharf, Brinehaven',
    occupier: 'Ice Wharf Stores',
    systems: [
      {
        name: 'Gas, canteen',
        pipes: '22cu 6\n15cu 2',
        components: [{ kind: 'Range', model: 'six burners' }],
        answers: { meter: 'ultrasonic-6' },
      },
      {
        name: 'Cold room, refrigerant',
        kind: 'refrigerant',
        pipes: '28cu 22\n15cu 24',
        components: [{ kind: 'Evaporator' }, { kind: 'Condenser' }, { kind: 'Receiver' }],
        answers: { refrigerant: 'R407F', 'low-ps': '14.8', 'high-ps': '27.5' },
      },
    ],
  },
  {
    name: 'Quay Road Main',
    address: 'Quay Road, between the ice wharf and the lido',
    occupier: 'Brinehaven Waterworks',
    systems: [
      {
        name: 'Water main, Quay Road',
        kind: 'water main',
        pipes: '',
        components: [
          { kind: 'Hydrant', rating: '250psi', height: '-6ft' },
          { kind: 'Air valve', rating: '300psi', height: '12ft' },
        ],
        answers: { components: 'Hydrant 250psi -6ft\nAir valve 300psi 12ft' },
      },
    ],
  },
  {
    name: 'Coffee van Nutmeg',
    address: 'Visiting, pitch 3 on the quay',
    occupier: 'Nutmeg Coffee',
    systems: [
      {
        name: 'Propane, coffee van',
        kind: 'propane',
        pipes: '10cu 6\n12cu 2.5',
        components: [{ kind: 'Two-ring hob' }, { kind: 'Water heater' }],
      },
      {
        name: 'Water, coffee van',
        kind: 'water',
        pipes: '12bore 14',
        components: [{ kind: 'Tap' }, { kind: 'Boiler', rating: '100 psi' }],
      },
    ],
  },
];

/** The history: which system by which procedure, how many days ago, what was wrong with it, and how far the paperwork went. */
export interface DemoJob {
  readonly site: string;
  readonly system: string;
  /** Domestic gas where nothing is said. */
  readonly procedure?: string;
  readonly answers?: Readonly<Record<string, string>>;
  readonly daysAgo: number;
  readonly scenario: string;
  readonly technician: 0 | 1;
  readonly seal: boolean;
  readonly smellBefore?: string;
}

export const history: readonly DemoJob[] = [
  { site: 'Cannery Flats', system: 'Gas, flat 1', daysAgo: 154, scenario: 'sound', technician: 0, seal: true },
  { site: 'Millrace Bakery', system: 'Gas, flat above', daysAgo: 131, scenario: 'small-leak', technician: 0, seal: true },
  { site: 'Harbour Baths', system: 'Gas, kiosk', daysAgo: 103, scenario: 'let-by', technician: 1, seal: true },
  { site: 'Cannery Flats', system: 'Gas, flat 2', daysAgo: 82, scenario: 'masked-leak', technician: 1, seal: true },
  { site: 'Slate Yard Workshops', system: 'Gas, unit 3', daysAgo: 61, scenario: 'pipework-leak', technician: 0, seal: true },
  { site: 'Cold Room Quay', system: 'Gas, canteen', daysAgo: 40, scenario: 'unzeroed', technician: 1, seal: false },
  {
    site: 'Cannery Flats',
    system: 'Gas, caretaker’s rooms',
    daysAgo: 19,
    scenario: 'sound',
    technician: 0,
    seal: true,
    smellBefore: 'settle',
  },
  { site: 'Slab Annex', system: 'Gas, annex', daysAgo: 6, scenario: 'sound', technician: 0, seal: true },
  { site: 'Cannery Flats', system: 'Gas, flat 3', daysAgo: 2, scenario: 'sound', technician: 1, seal: false },
  ...(
    [
      ['Millrace Bakery', 'Gas meter set, shop', 'meter-turn-on-inches', 147, 'sound', 0],
      ['Slate Yard Workshops', 'Gas piping, new unit 7', 'gas-piping-psi', 122, 'sound', 1],
      ['Cold Room Quay', 'Cold room, refrigerant', 'refrigerant-nitrogen', 110, 'slow-leak', 0],
      ['Harbour Baths', 'Returns, main pool', 'pool-lines-pressure', 96, 'sound', 1],
      ['Harbour Baths', 'Main drain, main pool', 'pool-dye-static', 95, 'leak', 1],
      ['Slab Annex', 'Water, annex', 'water-isolation-hold', 74, 'sound', 0],
      ['Slab Annex', 'Drains, annex', 'drain-level-hold', 74, 'leak', 0],
      ['Slab Annex', 'Underfloor heating, annex', 'underfloor-manifold', 66, 'sound', 1],
      ['Quay Road Main', 'Water main, Quay Road', 'water-main-make-up', 52, 'sound', 0],
      ['Slate Yard Workshops', 'Gas riser, units 1 to 4', 'gas-leak-rate', 33, 'reduced', 1],
      ['Coffee van Nutmeg', 'Propane, coffee van', 'propane-vehicle', 26, 'fitting', 0],
      ['Coffee van Nutmeg', 'Water, coffee van', 'vehicle-water-air', 26, 'sound', 0],
      ['Slate Yard Workshops', 'Propane tank, glazing shed', 'propane-tank-check', 15, 'sound', 1],
      ['Cannery Flats', 'Heating, stair A', 'heating-hydraulic', 11, 'sound', 0],
      ['Millrace Bakery', 'Ducts, bakehouse', 'duct-tightness', 4, 'leaky', 1],
    ] as const
  ).map(([site, system, procedure, daysAgo, scenario, technician]) => ({
    site,
    system,
    procedure,
    daysAgo,
    scenario,
    technician,
    seal: true,
  })),
];
