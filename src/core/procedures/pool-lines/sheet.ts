import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Plugs by opening: standard, hook past threads, long reach for skimmers, inflatable',
    'Open plug with hose, valve and gauge of 0 to 30 psi',
    'Spare plugs and O-rings',
    'Locks for pump and blower',
    'Diving gear or long poles',
    'Listening stick for locating',
    'Eye protection',
  ],
  cautions: {
    locked: 'Pump and blower locked off electrically before anyone dives or plugs: suction drowns.',
    plugs:
      'A plug fires like a shot: raise slowly, diver clear, never stand over or pull a plug under pressure. Local code and the maker’s instructions come first.',
  },
  means: { fail: 'The line leaks: find it, repair it, then hold it again.' },
  evidence: [
    { id: 'plugs', label: 'Plugs in place, along the line' },
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
  ],
  tasks: [
    { title: 'Lock off, plug', activeMinutes: 30, passiveMinutes: 0 },
    {
      title: 'Raise, hold',
      activeMinutes: 5,
      passiveMinutes: 10,
      meanwhile: 'Look at every plug and at the pad; listen along the route',
      holds: ['hold', 'hold-2', 'hold-3'],
    },
    { title: 'Let down, plugs out, prime', activeMinutes: 15, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Buried lines of pools and spas, after fittings, light, skimmer and drain have been cleared.',
      'Never above the working pressure.',
    ],
    tells: ['Whether one line holds water at working pressure'],
    cannotTell: ['Where the leak is: air at 10 psi at most and listening find it', 'The shell and the fittings'],
    outcomes: [
      {
        on: 'It falls',
        act: 'Let down slowly, check every plug and fitting, set them anew, and repeat: three holds before the line is said to leak.',
      },
      { on: 'It does not come up', act: 'A plug is out or a line is open: look at the map, count the openings.' },
      {
        on: 'It leaks',
        act: 'Air at 10 psi at most, listen along the route, mark the spot, check it against everything else before breaking out.',
      },
    ],
    schools:
      'One school goes to 25 psi for 10 minutes, another never above working pressure, 15–20 psi for a minute or two, since water shows at once. The lower ceiling and the longer time are taken.',
  },
};
