'use client';

import { useState } from 'react';
import { methodsOf, type SearchMethod, type Section, searchMethods } from '@/core/locating';
import type { Thing } from '@/core/register';
import type { OpenRun } from '@/device/use-run';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';

/** A section looked at: by what, and what was seen. */
export function LookForm({
  sections,
  suggested,
  kind,
  mayMove,
  write,
  leaky,
  keys = true,
}: {
  readonly sections: readonly Section[];
  readonly suggested: string;
  readonly kind: Thing<'system'>['kind'] | undefined;
  readonly mayMove: boolean;
  readonly write: OpenRun['write'];
  /** Where a simulation hides its leak. */
  readonly leaky?: string;
  /** Pressed by keys of its own; not where the screen has others. */
  readonly keys?: boolean;
}) {
  const methods = kind === undefined ? searchMethods : methodsOf[kind];
  const [picked, setPicked] = useState<string>();
  const [method, setMethod] = useState<SearchMethod>(methods[0]);
  const [text, setText] = useState('');
  const section = picked ?? suggested;
  const key = (shortcut: string) => (keys ? { shortcut } : {});
  const keep = async (leak: boolean) => {
    await write({ type: 'searched', section, method, leak, text: text.trim() });
    setText('');
    setPicked(undefined);
  };
  return (
    <fieldset className="border border-line p-3">
      <legend className="px-1 text-sm text-quiet">Looked at {keys && <KeyHint of="O" />}</legend>
      <div className="grid gap-2 sm:grid-cols-2">
        <Choice
          label="Section"
          {...key('o')}
          value={section}
          change={setPicked}
          options={sections.map(({ id, name }) => ({ value: id, label: name }))}
        />
        <Choice<SearchMethod>
          label="Method"
          value={method}
          change={setMethod}
          options={methods.map((one) => ({ value: one, label: one }))}
        />
      </div>
      <input
        aria-label="Which joint, and what was seen"
        placeholder="Which joint, and what was seen"
        className={`${input} mt-2`}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="mt-2 flex flex-wrap gap-2">
        <Button tone="quiet" size="tall" {...key('n')} disabled={!mayMove} onClick={() => keep(false)}>
          Nothing seen
        </Button>
        <Button tone="stop" size="tall" {...key('f')} disabled={!mayMove} onClick={() => keep(true)}>
          The leak is here
        </Button>
        {leaky !== undefined && (
          <Button tone="quiet" size="tall" {...key('l')} disabled={!mayMove} onClick={() => keep(section === leaky)}>
            Look (simulated)
          </Button>
        )}
      </div>
    </fieldset>
  );
}
