import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Gauge for the hose tap, reading 0.1 bar or finer',
    'Adapter without a vacuum breaker',
    'Meter key, valve key',
    'Clock beside the gauge',
    'Towel, spare washers',
    'Gloves',
  ],
  cautions: {
    heater: 'A closed water heater raises the pressure and hides leaks: off before the supply is shut. An electric one must never run dry.',
  },
  means: { fail: 'It leaks: find it, repair it, then the whole test again.' },
  evidence: [
    { id: 'valve', label: 'The valve that was shut' },
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
    { id: 'tap', label: 'A tap running afterwards' },
  ],
  tasks: [
    {
      title: 'Tell, switch off, fit the gauge',
      activeMinutes: 8,
      passiveMinutes: 0,
      supply: { of: 'water', state: 'on' },
      phases: ['supply'],
    },
    {
      title: 'Shut, bleed, read',
      activeMinutes: 3,
      passiveMinutes: 17,
      meanwhile: 'Look at the hose tap and at every fixture for drops',
      holds: ['hold'],
      supply: { of: 'water', state: 'off' },
      phases: ['shut', 'sees', 'let-by', 'hold', 'rig'],
      after: 'Fill to slab level, hose off',
    },
    { title: 'Reopen, run a tap', activeMinutes: 4, passiveMinutes: 0, supply: { of: 'water', state: 'on' }, phases: ['restore'] },
  ],
  guide: {
    scope: [
      'Cold and hot water pipes of a house at supply pressure. New pipework is tested hydraulically.',
      'It adds no pressure, so it is no pressure test.',
    ],
    tells: [
      'Whether the pipes lose water at supply pressure',
      'Whether the supply valve shuts',
      'With a second hold at the house valve: yard or house',
    ],
    cannotTell: [
      'How the pipes would do at a higher pressure',
      'Leaks that soft pipe or trapped air hides: the plan says how large',
      'Drains',
    ],
    outcomes: [
      { on: 'The indicator moves before', act: 'Something runs: a cistern, a softener, a filling valve. Find it first.' },
      { on: 'The gauge rises', act: 'The valve passes, and may hide a leak: repeat at another valve.' },
      { on: 'The gauge falls at the meter', act: 'Repeat at the house valve: a fall there too is the house, none is the yard line.' },
      { on: 'It holds', act: 'Reopen, run a tap, and say plainly what it was: no fall at supply pressure.' },
    ],
    schools: 'Fifteen minutes at least is the floor; many inspectors hold 20 to 30, which a house rule sets.',
  },
};
