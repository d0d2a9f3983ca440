/**
 * Text that every place keeps: a database, a file, a seal. A NUL and half of a surrogate pair are kept by some and refused by
 * others, so they are refused where they are typed.
 */
export const isStorable = (text: string): boolean => text.isWellFormed() && !text.includes('\0');

/** The pattern of such a text for a schema, whose patterns are read by code points. */
export const storablePattern = '^[^\\u0000\\ud800-\\udfff]*$';

export interface StorableFault {
  /** Names and numbers from the whole down to the fault. */
  readonly path: readonly (string | number)[];
  readonly why: 'character' | 'too long' | 'too deep';
}

export interface StorableLimits {
  /** Longest text, UTF-16 units. */
  readonly text: number;
  /** Lists and objects within one another. */
  readonly depth: number;
}

/**
 * Looks through a value as JSON gives it, however deep: the first text that not every place keeps, or what lies too deep.
 * It keeps its own stack, so that no depth ends the program.
 */
export function storableFault(value: unknown, { text, depth }: StorableLimits): StorableFault | undefined {
  const stack: { readonly value: unknown; readonly path: StorableFault['path'] }[] = [{ value, path: [] }];
  for (let one = stack.pop(); one !== undefined; one = stack.pop()) {
    const { value: here, path } = one;
    if (typeof here === 'string') {
      if (here.length > text) return { path, why: 'too long' };
      if (!isStorable(here)) return { path, why: 'character' };
    } else if (typeof here === 'object' && here !== null) {
      if (path.length >= depth) return { path: path.slice(0, 3), why: 'too deep' };
      const entries = Object.entries(here);
      const bad = entries.find(([key]) => !isStorable(key));
      if (bad !== undefined) return { path, why: 'character' };
      // Backwards onto the stack, so that the first fault is the one that stands first.
      for (const [key, within] of entries.reverse())
        if (typeof within === 'string' || (typeof within === 'object' && within !== null))
          stack.push({ value: within, path: [...path, key] });
    }
  }
  return undefined;
}

/** Said where it was typed, or of what was sent. */
export const storableWords: Readonly<Record<StorableFault['why'], string>> = {
  character: 'It holds a character that cannot be kept, such as half of a symbol. Delete it, or type it again.',
  'too long': 'It is too long to be kept. Shorten it.',
  'too deep': 'It is nested too deep to be read.',
};
