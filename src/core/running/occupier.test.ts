import { procedureById, procedures } from '../procedures';
import { occupierNews, occupierWords } from './occupier';

const water = procedureById('water-isolation-hold') ?? procedures[0];
const clock = (at: number) => new Date(at).toISOString().slice(11, 16);
const restored = [
  { id: 'restore', round: 1, state: 'done', outcome: 'done', effect: 'leads on', came: { of: 'check', items: [] } },
] as const;
const state = (
  verdict: Parameters<typeof occupierNews>[1]['verdict'],
  current?: string,
  phases: Parameters<typeof occupierNews>[1]['phases'] = restored,
) => ({ verdict, current, phases });

test('a supply that is off while a hold runs, until its end at the earliest', () => {
  const news = occupierNews(water, state('in progress', 'hold'), Date.UTC(2026, 0, 5, 10, 31));
  expect(news).toEqual({ is: 'off', of: 'water', until: Date.UTC(2026, 0, 5, 10, 31) });
  expect(news && occupierWords(news, clock)).toBe(
    'No water until 10:31 at the earliest. Please draw none and flush nothing until we say that it is back.',
  );
});

test('nothing is promised without a clock, nor for a phase that needs no supply off', () => {
  expect(occupierNews(water, state('in progress', 'hold'), undefined)).toBeUndefined();
  expect(occupierNews(water, state('in progress', 'prepare'), 1)).toBeUndefined();
});

test('it is back only after a pass that is closed: after anything else it may have been left off', () => {
  const news = occupierNews(water, state('pass'), undefined);
  expect(news && occupierWords(news, clock)).toBe('The water is back: the test is over and the supply is on again.');
  for (const verdict of ['fail', 'inconclusive', 'invalid', 'restricted'] as const)
    expect(occupierNews(water, state(verdict), undefined)).toBeUndefined();
  expect(occupierNews(water, state('pass', undefined, [{ id: 'restore', round: 1, state: 'skipped' }]), undefined)).toBeUndefined();
});

test('a test that shuts no supply has nothing to tell', () => {
  for (const procedure of procedures)
    if (!procedure.tasks.some(({ supply }) => supply?.state === 'off'))
      expect(occupierNews(procedure, state('pass'), undefined)).toBeUndefined();
});
