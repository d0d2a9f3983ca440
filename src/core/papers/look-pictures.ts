import type { CheckPhase, ObservePhase } from '../course';
import { itemsOf, outcomeOf } from '../judging';
import { lineGroups, parseOpenings, parseTrials } from '../sizing';
import { box, dot, line, type Mark, words } from './drawing';
import type { Picture, Pictured } from './hold-pictures';

/** Pictures of what is looked at and not read. */

/** The thread of dye at the opening, as it was seen. */
export function dyePicture(phase: ObservePhase, { state, width }: Pictured): Picture | undefined {
  const seen = outcomeOf(state);
  const option = phase.options.find(({ id }) => id === seen);
  if (seen === undefined || option === undefined) return undefined;
  const drawn = seen === 'drawn';
  const [wall, middle] = [230, 66];
  const thread = drawn
    ? [70, 34, 100, 44, 130, 58, 170, 64, 210, 66, 250, 67, 300, 67]
    : [110, 28, 106, 44, 112, 58, 106, 74, 111, 90, 107, 108];
  const marks: Mark[] = [
    box(20, 10, 210, 116, 'good', 0.1),
    box(wall, 10, 46, 116, 'quiet', 0.3),
    box(wall, middle - 11, 46, 22, 'paper'),
    line([wall, middle - 11, wall + 46, middle - 11], 'ink', 1),
    line([wall, middle + 11, wall + 46, middle + 11], 'ink', 1),
    line(thread, 'stop', 2.2),
    words(24, 22, 'water at rest'),
    words(wall + 54, middle + 3, 'the opening'),
    words(300, 100, option.label, { size: 10, tone: 'ink', strong: true }),
  ];
  return {
    drawing: { width, height: 136, marks },
    says: `The dye at the opening: ${option.label}.`,
    caption: `${phase.title}: what the dye did at the opening. The thread is drawn after what was said of it, it is no photograph.`,
  };
}

/** Outlets against trials, and the lines that they turned out to be. */
export function lineMap({ plan, width }: Pictured): Picture | undefined {
  const { trials } = parseTrials(plan.answers.trials ?? '');
  const { openings } = parseOpenings(plan.answers.openings ?? '');
  const groups = lineGroups(trials);
  const named = [...openings.map(({ place }) => place), ...groups.flat()];
  const names = [...new Map(named.map((one) => [one.toLowerCase(), one])).values()];
  if (names.length === 0) return undefined;
  const column = Math.min(96, (width - 150) / Math.max(1, trials.length + 1));
  const row = 17;
  const x = (index: number) => 150 + column * index + column / 2;
  const y = (index: number) => 34 + row * index;
  const heard = (trial: (typeof trials)[number], one: string) =>
    [trial.at, ...trial.answered].some((other) => other.toLowerCase() === one.toLowerCase());
  const marks: Mark[] = [
    words(4, 14, 'air put in at'),
    ...trials.map(({ at }, index) => words(x(index), 14, at, { anchor: 'middle', tone: 'ink' })),
    ...(plan.answers.line === undefined
      ? []
      : [words(x(trials.length), 14, plan.answers.line, { anchor: 'middle', tone: 'ink', strong: true })]),
    ...names.flatMap((one, index): Mark[] => {
      const opening = openings.find(({ place }) => place.toLowerCase() === one.toLowerCase());
      return [
        ...(opening === undefined ? [] : [box(0, y(index) - 11, width, row - 2, 'good', 0.12)]),
        words(4, y(index), one, opening === undefined ? { size: 9 } : { size: 9, tone: 'ink', strong: true }),
        ...trials.map(
          (trial, at): Mark =>
            heard(trial, one)
              ? dot(x(at), y(index) - 3, 4, 'ink', trial.at.toLowerCase() === one.toLowerCase() ? undefined : true)
              : line([x(at) - 3, y(index) - 3, x(at) + 3, y(index) - 3], 'faint', 1),
        ),
        ...(opening === undefined
          ? []
          : [words(x(trials.length), y(index), opening.valve ? 'valve' : 'plugged', { anchor: 'middle', tone: 'ink' })]),
      ];
    }),
  ];
  const lines = groups.map((group) => group.join(' and ')).join('; ');
  return {
    drawing: { width, height: y(names.length - 1) + 12, marks },
    says: `Which outlets belong together: ${lines === '' ? 'no trial was made' : lines}. Tested: ${openings.map(({ place }) => place).join(', ')}.`,
    caption: 'Line map: air put in at one outlet (full dot) and seen at others (ring); shaded rows are the line that was tested.',
  };
}

/** The loops of a manifold, full or not, as they were ticked off. */
export function loopPicture(phase: CheckPhase, { state, width }: Pictured): Picture | undefined {
  const loops = phase.items.filter((item) => item.boundary === undefined);
  const done = itemsOf(state);
  if (loops.length === 0) return undefined;
  const row = 16;
  const isFull = (id: string) => done.some((item) => item.id === id && item.state === 'done');
  const marks: Mark[] = [
    box(14, 6, 8, row * loops.length, 'ink'),
    ...loops.flatMap(({ id, text }, index): Mark[] => {
      const y = 6 + row * (index + 0.5);
      const full = isFull(id);
      return [
        line([22, y - 4, 250, y - 4, 256, y, 250, y + 4, 22, y + 4], full ? 'good' : 'quiet', full ? 2.2 : 0.8, full ? undefined : true),
        words(268, y + 3, `${text.split(':')[0]}: ${full ? 'filled and purged' : 'not ticked off'}`, { size: 9, tone: 'ink' }),
      ];
    }),
  ];
  return {
    drawing: { width, height: 12 + row * loops.length, marks },
    says: `Loops of the manifold: ${loops.filter(({ id }) => isFull(id)).length} of ${loops.length} filled and purged.`,
    caption: `${phase.title}: the loops of the manifold.`,
  };
}
