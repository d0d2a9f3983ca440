import { judge } from '../judging/judge';
import { LogBuilder } from '../judging/log-builder.fixture';
import { planFor } from '../simulation/examples.fixture';
import { subtree } from './likelihood';
import { isolationSeconds, isSearched, searchLog, simulatedIsolation } from './search-log';
import { firstSections } from './sections';

const plan = planFor({ answers: { work: 'new' } });
const fallen = (end = '19.50') => new LogBuilder(plan).proved().settled().held('20.50', end);
const figure = (section: string, step: 'start' | 'end', value: string) => ({
  type: 'isolation' as const,
  section,
  step,
  value,
  unit: 'mbar' as const,
  source: 'keypad' as const,
});
const read = (log: LogBuilder) => searchLog(plan, judge(plan, log.events), log.events);

test('an isolation is judged by the hold’s own threshold, exactly', () => {
  const log = fallen()
    .write(figure('branch-1', 'start', '20.50'))
    .write(figure('branch-1', 'end', '20.25'));
  expect(read(log).isolated).toEqual([expect.objectContaining({ section: 'branch-1', stillLeaks: true, fall: '0.25' })]);
  const still = fallen()
    .write(figure('branch-1', 'start', '20.50'))
    .write(figure('branch-1', 'end', '20.26'));
  expect(read(still).isolated[0].stillLeaks).toBe(false);
});

test('one that has begun is open until its end; an end without a start is none', () => {
  expect(read(fallen().write(figure('a', 'start', '20.50'))).open).toMatchObject({ section: 'a' });
  expect(read(fallen().write(figure('a', 'end', '20.50'))).isolated).toEqual([]);
  const swapped = read(
    fallen()
      .write(figure('a', 'start', '20.50'))
      .write(figure('b', 'end', '20.50')),
  );
  expect(swapped.isolated).toEqual([]);
  expect(swapped.open).toMatchObject({ section: 'a' });
});

test('what was said without figures counts too; the search decides nothing of the verdict', () => {
  const log = fallen();
  const before = judge(plan, log.events);
  log.write({ type: 'isolation', section: 'trunk', step: 'said', stillLeaks: true });
  log.write({ type: 'searched', section: 'rig', method: 'bubbles', leak: false, text: '' });
  log.write({ type: 'searched', section: 'gauge', method: 'looking', leak: false, text: 'agrees with DG-2' });
  expect(read(log)).toMatchObject({ rigDry: true, gaugeChecked: true, isolated: [{ section: 'trunk', stillLeaks: true }] });
  expect(judge(plan, log.events)).toEqual(before);
});

test('it is held long enough for the fall that was seen to show again, and no longer than the hold', () => {
  const seconds = (end: string) => isolationSeconds(plan, judge(plan, fallen(end).events));
  // 1.00 mbar in 120 s reaches 0.25 in 30 s; half as long again is 45 s, and a minute is the least.
  expect(seconds('19.50')).toBe(60);
  expect(seconds('20.24')).toBe(120);
  // 0.40 mbar reaches it in 76 s: 114 s, so two minutes.
  expect(seconds('20.10')).toBe(120);
});

test('a simulated isolation goes on falling where the leak is still connected, and stands where it is shut off', () => {
  const sections = firstSections('gas', ['Boiler', 'Hob']);
  const judgement = judge(plan, fallen().events);
  const end = (shut: string) => simulatedIsolation(plan, judgement, '20.50', 60, subtree(sections, shut), 'branch-1');
  expect(end('branch-1')).toBe('20.50');
  expect(end('pipework')).toBe('20.50');
  expect(Number(end('branch-2'))).toBeCloseTo(20.5 - 1.0 * (60 / 121), 1);
});

test('what is withdrawn stays in the log and counts no more: an end is open again, a start never was', () => {
  const isolated = () =>
    fallen()
      .write(figure('branch-1', 'start', '20.50'))
      .write(figure('branch-1', 'end', '20.25'));
  const [start, end] = isolated().events.slice(-2);
  const withdrawn = (reading: string) => read(isolated().write({ type: 'withdrawn', reading, reason: 'Mistyped' }));
  expect(withdrawn(end.id)).toMatchObject({ isolated: [], open: { section: 'branch-1', value: '20.50' } });
  expect(withdrawn(start.id)).toMatchObject({ isolated: [] });
  expect(withdrawn(start.id).open).toBeUndefined();
  expect(withdrawn('another')).toMatchObject({ isolated: [{ id: end.id, stillLeaks: true }] });

  const looked = fallen().write({ type: 'searched', section: 'branch-1', method: 'bubbles', leak: true, text: '' });
  expect(read(looked).looked).toHaveLength(1);
  expect(read(looked.write({ type: 'withdrawn', reading: looked.lastId, reason: 'Wrong joint' })).looked).toEqual([]);
});

test('the rig was looked at where the run’s own rig step found it dry; any other dry step says nothing of it', () => {
  const dry = (phase: string) =>
    searchLog(
      plan,
      {
        ...judge(plan, fallen().events),
        phases: [{ id: phase, state: 'done', round: 1, effect: 'leads on', outcome: 'dry', came: { of: 'look' } }],
      },
      [],
    ).rigDry;
  const rig = plan.phases.find(({ id }) => id === 'rig');
  expect(rig?.kind).toBe('observe');
  expect(dry('rig')).toBe(true);
  expect(dry('let-by-seat')).toBe(false);
  expect(dry('rigging')).toBe(false);
});

test('a leak is looked for after a fall; a valve that lets by, and a smell of gas, are no leak to search for', () => {
  const sought = (log: LogBuilder) => isSearched(judge(plan, log.events));
  expect(sought(fallen().observe('rig', 'dry'))).toBe(true);
  expect(sought(new LogBuilder(plan).proved())).toBe(false);
  expect(sought(new LogBuilder(plan).proved('8.90').observe('let-by-seat', 'bubbles').tick('seat-remade'))).toBe(false);
  expect(sought(fallen().observe('rig', 'dry').write({ type: 'smell', text: '' }))).toBe(false);
});
