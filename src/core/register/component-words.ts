import { linesOf } from '../exact/lines';
import { pressureUnits } from '../quantities';
import { blank, type Said } from './things';

type Component = Pick<Said<'component'>, 'kind' | 'make' | 'model' | 'serial' | 'rating' | 'height'>;

/** A component in one line, as a list or a plan names it: `Boiler Vello 24, serial KB-2207`. */
export function componentText({ kind, make, model, serial }: Omit<Component, 'rating' | 'height'>): string {
  const named = [kind, make, model].filter((part) => part !== '').join(' ');
  return serial === '' ? named : `${named}, serial ${serial}`;
}

/** As the question for components wants it, where its rating is known: `Hydrant 250 psi -6 ft`. */
export function ratedText({ kind, make, model, rating, height }: Component): string | undefined {
  if (rating === '') return undefined;
  return [kind, make, model, rating, height].filter((part) => part !== '').join(' ');
}

/** Those that are there on a day: fitted by then, and not removed. */
export const fittedOn = <C extends Pick<Said<'component'>, 'fitted' | 'removed' | 'putAway'>>(
  components: readonly C[],
  on: string,
): readonly C[] =>
  components.filter(({ fitted, removed, putAway }) => !putAway && (fitted === '' || fitted <= on) && (removed === '' || removed > on));

const number = String.raw`\d+(?:[.,]\d+)?`;
const rated = new RegExp(
  String.raw`(?:^|[\s,])(${number}\s*(?:${[...pressureUnits, 'psig', 'barg'].join('|')}))(?:[\s,]+([+−-]?${number}\s*(?:m|ft)))?\s*$`,
  'i',
);

/** A component from the line in which people write it: `Boiler Vello 24, serial KB-2207`, `Hydrant 250psi -6ft`. */
export function componentFrom(line: string): Omit<Said<'component'>, 'systemId'> {
  const { systemId: _, ...none } = blank.component;
  const [, before, serial = ''] = /^(.*?)(?:[,\s]+(?:serial|s\/n|no\.?)\s*:?\s*(\S.*))?$/i.exec(line.trim()) ?? ['', line.trim()];
  const rating = rated.exec(before);
  return {
    ...none,
    kind: (rating === null ? before : before.slice(0, rating.index)).replace(/[,\s]+$/, '').slice(0, 80),
    serial: serial.trim().slice(0, 80),
    rating: rating?.[1] ?? '',
    height: rating?.[2] ?? '',
  };
}

/** Lines of components, those that say nothing left out. */
export const componentsFrom = (text: string): readonly Omit<Said<'component'>, 'systemId'>[] => linesOf(text).map(componentFrom);
