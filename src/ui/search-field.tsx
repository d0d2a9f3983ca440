'use client';

import { type ComponentProps, useEffect, useRef } from 'react';
import { input } from './classes';

/** What one searches by, found as one types. */
export function SearchField({
  label,
  isLabelled = true,
  words,
  search,
  className = '',
  ...rest
}: Omit<ComponentProps<'input'>, 'value' | 'onChange' | 'type'> & {
  readonly label: string;
  /** The label is seen, and not only heard. */
  readonly isLabelled?: boolean;
  readonly words: string;
  readonly search: (words: string) => void;
}) {
  const field = useRef<HTMLInputElement>(null);
  const first = useRef({ words, search });
  // What was typed before the page listened stands in the field, and is searched for too.
  useEffect(() => {
    const typed = field.current?.value ?? '';
    if (typed !== first.current.words) first.current.search(typed);
  }, []);
  return (
    <label className={`block ${className}`}>
      <span className={isLabelled ? 'font-medium' : 'sr-only'}>{label}</span>
      <input
        ref={field}
        type="search"
        className={`${input} ${isLabelled ? 'mt-1' : 'text-lg'}`}
        value={words}
        onChange={(event) => search(event.target.value)}
        {...rest}
      />
    </label>
  );
}
