'use client';

import { useState } from 'react';
import { type SearchMethod, type Section, searchMethods, usualMethods } from '@/core/locating';
import type { Thing } from '@/core/register';
import type { OpenRun } from '@/device/use-run';
import { input, quietButton, stopButton } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';

/** A section looked at: by what, and what was seen. */
export function LookForm({
  sections,
  suggested,
  kind,
  mayMove,
  write,
  leaky,
}: {
  readonly sections: readonly Section[];
  readonly suggested: string;
  readonly kind: Thing<'system'>['kind'] | undefined;
  readonly mayMove: boolean;
  readonly write: OpenRun['write'];
  /** Where a simulation hides its leak. */
  readonly leaky?: string;
}) {
  const [picked, setPicked] = useState<string>();
  const [method, setMethod] = useState<SearchMethod>(kind === undefined ? 'bubbles' : usualMethods[kind]);
  const [text, setText] = useState('');
  const section = picked ?? suggested;
  const keep = async (leak: boolean) => {
    await write({ type: 'searched', section, method, leak, text: text.trim() });
    setText('');
    setPicked(undefined);
  };
  return (
    <fieldset className="border border-line p-3">
      <legend className="px-1 text-sm text-quiet">
        Looked at <KeyHint of="O" />
      </legend>
      <div className="grid gap-2 sm:grid-cols-2">
        <select
          aria-label="Section"
          aria-keyshortcuts="o"
          className={input}
          value={section}
          onChange={(event) => setPicked(event.target.value)}
        >
          {sections.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        <select aria-label="Method" className={input} value={method} onChange={(event) => setMethod(event.target.value as SearchMethod)}>
          {searchMethods.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      </div>
      <input
        aria-label="Which joint, and what was seen"
        placeholder="Which joint, and what was seen"
        className={`${input} mt-2`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className={`${quietButton} min-h-12`} aria-keyshortcuts="n" disabled={!mayMove} onClick={() => keep(false)}>
          Nothing seen <KeyHint of="N" />
        </button>
        <button type="button" className={`${stopButton} min-h-12`} aria-keyshortcuts="f" disabled={!mayMove} onClick={() => keep(true)}>
          The leak is here <KeyHint of="F" />
        </button>
        {leaky !== undefined && (
          <button
            type="button"
            className={`${quietButton} min-h-12`}
            aria-keyshortcuts="l"
            disabled={!mayMove}
            onClick={() => keep(section === leaky)}
          >
            Look (simulated) <KeyHint of="L" />
          </button>
        )}
      </div>
    </fieldset>
  );
}
