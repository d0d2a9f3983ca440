import type { Thing } from './things';

/** Letters and figures only, so that “4b, Old Slipway” and “4B Old slipway” are one. */
const bare = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

type Site = Pick<Thing<'site'>, 'id' | 'name' | 'address' | 'apartFrom' | 'putAway'>;

/** Whether two sites may be one that two people made: the same address, or the same name where one address begins the other. */
export function looksLike(a: Site, b: Site): boolean {
  if (a.id === b.id || a.putAway || b.putAway || a.apartFrom.includes(b.id) || b.apartFrom.includes(a.id)) return false;
  const [at, other] = [bare(a.address), bare(b.address)];
  if (at === other) return at !== '';
  return bare(a.name) === bare(b.name) && (at.startsWith(`${other} `) || other.startsWith(`${at} `) || at === '' || other === '');
}

/** Sites that may be the same as this one; whoever made it second is asked. */
export const twinsOf = <S extends Site>(one: Site, among: readonly S[]): readonly S[] => among.filter((other) => looksLike(one, other));
