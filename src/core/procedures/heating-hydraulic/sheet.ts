import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Test pump with relief and water count',
    'Second gauge of 1.5 to 3 times the test pressure (a 60-bar pump gauge is too coarse for 9 bar)',
    'Plugs, caps, bleed keys',
    'Thermometer',
    'Towels, spare washers',
    'Eye protection and gloves',
  ],
  cautions: {
    pressure:
      'Over-pressure damages controls and joints: the weakest part is the ceiling. Nobody in line with a plug; let down before opening.',
    backflow: 'Test water must not flow back into a drinking-water supply: disconnect the pump.',
  },
  means: { fail: 'It leaks: repair it, then the whole test again, before it is covered or put to use.' },
  evidence: [
    { id: 'start', label: 'Gauge of stage 2 beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge of stage 2 beside a clock, at the end', at: 'end' },
    { id: 'guard', label: 'Guard gauge at leaving' },
  ],
  tasks: [
    { title: 'Fill, bleed, isolate', activeMinutes: 30, passiveMinutes: 0, supply: { of: 'water', state: 'on' }, phases: ['prepare'] },
    {
      title: 'Raise, stage 1',
      activeMinutes: 6,
      passiveMinutes: 5,
      meanwhile: 'Look at every joint, the pump’s valve first',
      holds: ['stage-1', 'stage-1-again', 'air'],
    },
    { title: 'Stage 2', activeMinutes: 2, passiveMinutes: 5, meanwhile: 'Look at every joint again', holds: ['stage-2'] },
    { title: 'Let down, guard gauge', activeMinutes: 8, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Heating, hot and cold water pipework; a radiator or exchanger by itself before it is fitted (a component).',
      'Never above twice the nominal pressure or the weakest part.',
    ],
    tells: [
      'Whether pipework and joints hold 1.5 times their nominal pressure',
      'How much air is trapped, where the pump counts its water',
    ],
    cannotTell: [
      'What was isolated or taken off',
      'Small leaks in soft pipe or with trapped air: the plan says how large',
      'Damage done after the test: the guard gauge tells',
    ],
    outcomes: [
      { on: 'Rigid pipe falls', act: 'Look at the pump’s valve and gauge joint, then at every joint. Let down, repair, start again.' },
      { on: 'Soft pipe falls in stage 1', act: 'Top up once. If it falls again let it relax longer, then start again.' },
      { on: 'Too much air', act: 'Bleed again at the high points, and measure again.' },
      {
        on: 'The guard gauge falls later',
        act: 'More than a tenth beyond temperature and first-day relaxing points to damage after hand-over: look where others worked.',
      },
    ],
    schools:
      'Figures between 1.5 and 2 times the nominal are in use; 1.5 is taken as what is due, 2 as the ceiling, so that a stronger test never breaks the weakest part.',
  },
};
