import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Test ball for the pipe’s size with hose and gauge',
    'Chain or rope for the ball',
    'Hose, rule or mark, torch and mirror',
    'Cleanout key, spare caps',
    'Gloves, eye protection, disinfectant',
  ],
  cautions: {
    flood: 'An opening below the fill level floods indoors: find it first, and watch the lowest fixture.',
    sewer: 'Sewer gas and germs: ventilate, gloves, wash hands.',
    ball: 'A ball under pressure shoots out: never in line with it, let water off first, then air, holding the hose.',
    backflow: 'Hose never below the water: dirty water must not be drawn back into the supply.',
  },
  means: { fail: 'The level fell: find where the water goes, repair it, then the whole test again.' },
  evidence: [
    { id: 'ball', label: 'Ball’s gauge, before' },
    { id: 'start', label: 'Level with rule and clock, at the start', at: 'start' },
    { id: 'end', label: 'Level with rule and clock, at the end', at: 'end' },
    { id: 'ball-after', label: 'Ball’s gauge, after' },
  ],
  tasks: [
    { title: 'Tell, find openings, set the ball', activeMinutes: 15, passiveMinutes: 0 },
    {
      title: 'Fill to slab level, hose off',
      activeMinutes: 8,
      passiveMinutes: 5,
      meanwhile: 'Watch the lowest fixture for water',
      holds: ['settle'],
      supply: { of: 'water', state: 'on' },
      phases: ['fill'],
    },
    {
      title: 'Level hold',
      activeMinutes: 2,
      passiveMinutes: 20,
      meanwhile: 'Watch the lowest fixture; look for cleanouts and vents',
      holds: ['hold'],
    },
    { title: 'Let off, ball out, caps back', activeMinutes: 10, passiveMinutes: 0 },
  ],
  guide: {
    scope: [
      'Gravity drains between a ball and slab level, where no indoor opening lies lower.',
      'It runs beside the water isolation hold.',
    ],
    tells: ['Whether the drains lose standing water'],
    cannotTell: [
      'Where it leaks',
      'Pipes above the water level',
      'Leaks hidden by a branch with a large free surface',
      'What a camera would show of the inside',
    ],
    outcomes: [
      { on: 'Water passes the ball', act: 'The run is invalid: set the ball anew, clean its seat, fill again.' },
      { on: 'The level falls', act: 'Isolate branches one by one with more balls, and hold each.' },
      { on: 'The level rises', act: 'Somebody used water, or rain comes in: find it, and start again.' },
    ],
    schools: 'Twenty minutes at least; thirty is common, which a house rule sets.',
  },
};
