/** Words of a search, as they are compared: accents and case do not count. */
export const searchWords = (text: string): readonly string[] =>
  plain(text.slice(0, 200))
    .split(/\s+/)
    .filter((word) => word !== '');

export const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase();

/** Whether all words stand somewhere in it, in any order. */
export const isFound = (words: readonly string[], text: string): boolean => {
  const here = plain(text);
  return words.every((word) => here.includes(word));
};
