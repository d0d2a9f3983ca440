/** The invented firm, its people, sites and gauges. Nobody and nothing here exists. */
export const firm = { name: 'Lindqvay Pipework & Air', emergencyNumber: '0000 555 (demo emergency desk)' };
export const otherFirm = { name: 'Ostrel Fitters', emergencyNumber: '0000 556 (demo emergency desk)' };

export const demoPassword = 'harbour-demo-1';

export const people = [
  { name: 'Iola Marsh', email: 'iola@lindqvay.invalid', role: 'technician' },
  { name: 'Tomasz Brandel', email: 'tomasz@lindqvay.invalid', role: 'technician' },
  { name: 'Wren Adeyo', email: 'wren@lindqvay.invalid', role: 'supervisor' },
  { name: 'Pernilla Okes', email: 'pernilla@lindqvay.invalid', role: 'office' },
] as const;

export const otherPeople = [{ name: 'Ruben Falk', email: 'ruben@ostrel.invalid', role: 'technician' }] as const;

interface DemoSystem {
  readonly name: string;
  readonly pipes: string;
  readonly components: readonly string[];
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
      { name: 'Gas, flat 1', pipes: '22cu 9.5\n15cu 6', components: ['Boiler, 24 kW, serial KB-2207', 'Hob, four burners'] },
      { name: 'Gas, flat 2', pipes: '22cu 11\n15cu 7.5', components: ['Boiler, 24 kW, serial KB-2208', 'Hob, four burners'] },
      { name: 'Gas, flat 3', pipes: '22cu 12\n15cu 5', components: ['Boiler, 24 kW, serial KB-2209', 'Cooker'] },
      {
        name: 'Gas, flat 4',
        pipes: '22cu 8\n15cu 9',
        components: ['Boiler, 24 kW, serial KB-2210', 'Hob, two burners'],
        answers: { meter: 'none' },
      },
      { name: 'Gas, caretaker’s rooms', pipes: '28cu 6\n22cu 4', components: ['Water heater', 'Gas fire'] },
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
        components: ['Deck oven', 'Water heater'],
        answers: { meter: 'u16', pipe: '>28-35' },
      },
      { name: 'Gas, flat above', pipes: '22cu 7\n15cu 4', components: ['Boiler, 18 kW', 'Hob, four burners'] },
    ],
  },
  {
    name: 'Harbour Baths',
    address: '1 Lido Terrace, Brinehaven',
    occupier: 'Brinehaven Town Baths',
    systems: [{ name: 'Gas, kiosk', pipes: '22cu 5\n15cu 3', components: ['Griddle', 'Water heater'] }],
  },
  {
    name: 'Slate Yard Workshops',
    address: '22 Quarry Road, Upper Brine',
    occupier: 'Slate Yard Tenants',
    systems: [
      { name: 'Gas, unit 3', pipes: '28cu 8\n22cu 6', components: ['Air heater'] },
      { name: 'Gas, unit 5', pipes: '28cu 9', components: ['Air heater', 'Kiln'] },
    ],
  },
  {
    name: 'Slab Annex',
    address: '4b Old Slipway, Brinehaven',
    occupier: 'Brinehaven Homes',
    systems: [{ name: 'Gas, annex', pipes: '20x2pex 14\n16x2pex 6', components: ['Boiler, 18 kW', 'Hob, two burners'] }],
  },
  {
    name: 'Cold Room Quay',
    address: '9 Ice Wharf, Brinehaven',
    occupier: 'Ice Wharf Stores',
    systems: [{ name: 'Gas, canteen', pipes: '22cu 6\n15cu 2', components: ['Range, six burners'], answers: { meter: 'e6' } }],
  },
];

export const gauges = [
  {
    name: 'Van 1 digital, two decimals',
    kind: 'digital',
    unit: 'mbar',
    readability: '0.01',
    rangeLow: '-10',
    rangeHigh: '150',
    serial: 'DG-4471',
    calibrationNeeded: true,
    simulated: false,
    calibratedDaysAgo: 120,
    validDays: 365,
  },
  {
    name: 'Van 1 water column',
    kind: 'liquid',
    unit: 'mbar',
    readability: '0.25',
    rangeLow: '0',
    rangeHigh: '50',
    serial: 'WC-012',
    calibrationNeeded: false,
    simulated: false,
  },
  {
    name: 'Van 2 digital, one decimal',
    kind: 'digital',
    unit: 'mbar',
    readability: '0.1',
    rangeLow: '-10',
    rangeHigh: '200',
    serial: 'DG-3902',
    calibrationNeeded: true,
    simulated: false,
    calibratedDaysAgo: 401,
    validDays: 365,
  },
  {
    name: 'Simulated gauge',
    kind: 'digital',
    unit: 'mbar',
    readability: '0.01',
    rangeLow: '-10',
    rangeHigh: '150',
    serial: 'SIM-1',
    calibrationNeeded: true,
    simulated: true,
    calibratedDaysAgo: 200,
    validDays: 365,
  },
] as const;

/** The history: which system, how many days ago, what was wrong with it, and how far the paperwork went. */
export const history = [
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
] as const;
