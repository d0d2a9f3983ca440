/** What an answer of several lines says: each line without its outer spaces, empty ones left out. */
export const linesOf = (text = ''): readonly string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
