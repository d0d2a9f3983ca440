import type { Sheet } from '../card';
import type { Names } from '.';

/** What its sheet says beside the course: what to bring, what to beware of, how the time goes, what it tells and cannot tell. */
export const sheet: Sheet<Names> = {
  kit: [
    'Filling pump and test pump with relief',
    'Gauge of 0 to 10 bar, 0.1 bar or finer, to stay on',
    'Hoses for purging loop by loop',
    'Loop list, labels',
    'Shade or covers',
    'Eye protection and gloves',
  ],
  cautions: {
    pressure: 'Never above what manifold and flow meters bear. Let down before opening.',
    air: 'Air stores energy: 1 bar at most, slowly, nobody near the manifold while it is raised, eye protection on.',
  },
  means: { fail: 'It leaks: repair it, then the whole test again, before any screed.' },
  evidence: [
    { id: 'loops', label: 'Every loop before the screed', each: { answer: 'loops', label: 'Loop before the screed' } },
    { id: 'start', label: 'Gauge beside a clock, at the start', at: 'start' },
    { id: 'end', label: 'Gauge beside a clock, at the end', at: 'end' },
    { id: 'guard', label: 'Guard gauge' },
  ],
  tasks: [
    { title: 'Fill and purge loop by loop', activeMinutes: 45, passiveMinutes: 0, supply: { of: 'water', state: 'on' }, phases: ['loops'] },
    {
      title: 'Raise and let it relax',
      activeMinutes: 8,
      passiveMinutes: 30,
      meanwhile: 'Photograph the loops; look at every joint of the manifold',
      holds: ['stage-1', 'stage-1-again'],
    },
    { title: 'Hold', activeMinutes: 3, passiveMinutes: 60, meanwhile: 'Photograph the loops; paperwork', holds: ['hold'] },
    { title: 'Let down, guard gauge', activeMinutes: 8, passiveMinutes: 0 },
  ],
  guide: {
    scope: ['Loops of plastic or multilayer pipe at a manifold, before the screed.', 'Air only where frost threatens, 1 bar at most.'],
    tells: ['Whether the loops hold together before they are buried', 'With the guard gauge: whether they were harmed afterwards'],
    cannotTell: ['Which loop leaks: shut them one by one', 'The boiler’s side of the manifold'],
    outcomes: [
      { on: 'It falls', act: 'Look at the pump’s valve and gauge, then shut the loops one by one and hold each.' },
      { on: 'It needs topping up again', act: 'Let it relax longer, out of the sun, then start again.' },
      { on: 'The guard gauge falls', act: 'Stop the screed, mark where people worked, and hold loop by loop.' },
    ],
    schools: 'Water at 4 to 6 bar is taken; air at 1 bar is kept for frost alone, since it stores energy and a wet test sees as much.',
  },
};
