import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: ['Dye with a fine tip', 'Plugs by opening', 'Mask, long pole', 'Locks for pump and blower'],
  cautions: {
    locked:
      'Pump and blower locked off electrically before anyone dives: suction drowns. Local code and the maker’s instructions come first.',
  },
  means: { fail: 'Water leaves where the dye went: repair it, then look again.' },
  evidence: [{ id: 'thread', label: 'Thread of dye at the opening' }],
  tasks: [
    {
      title: 'Lock off, plug, let it rest',
      activeMinutes: 15,
      passiveMinutes: 10,
      meanwhile: 'Look at light, skimmer throat and fittings with dye',
    },
    { title: 'Dye', activeMinutes: 5, passiveMinutes: 0 },
    { title: 'Plugs out', activeMinutes: 8, passiveMinutes: 0 },
  ],
  guide: {
    scope: ['Lines wholly below the water, of pools that lose water with the pump off too.', 'Everything else: the pressure test.'],
    tells: ['That a line leaks, where dye is drawn in'],
    cannotTell: [
      'That a line is tight: dye that is not drawn in clears nothing',
      'Leaks that open only under pressure, or lie above the water',
    ],
    outcomes: [
      { on: 'Drawn in', act: 'The line leaks below the water: locate by air at 10 psi at most and listening.' },
      { on: 'Not drawn in', act: 'Not cleared: go on to the pressure test.' },
    ],
    schools: 'Some take dye that hangs as a pass. It is never one here: the pressure test decides.',
  },
};
