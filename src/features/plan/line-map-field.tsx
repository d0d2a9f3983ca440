'use client';

import { useState } from 'react';
import type { Answers, Parameter } from '@/core/procedures';
import type { Problem } from '@/core/quantities';
import {
  type Closing,
  closingOf,
  lineGroups,
  nextOutlet,
  openingsOfLine,
  openingText,
  outletsOf,
  parseOpenings,
  parseTrials,
  plugKinds,
  trialsText,
  turned,
} from '@/core/sizing';
import { Button } from '@/ui/button';
import { Dropdown } from '@/ui/choice';
import { input } from '@/ui/classes';
import { Field } from '@/ui/field';

/** What a pool has, and whether there is usually one of it. */
const sorts = [
  ['Return', false],
  ['Skimmer', false],
  ['Main drain', true],
  ['Equipment end', true],
] as const;

const closings: readonly { readonly value: Closing; readonly label: string }[] = [
  ...(Object.keys(plugKinds) as (keyof typeof plugKinds)[]).map((value) => ({ value, label: plugKinds[value] })),
  { value: 'valve', label: 'valve, proved: no plug' },
];

interface Props {
  readonly parameter: Extract<Parameter, { kind: 'lines' }>;
  readonly answers: Answers;
  readonly answer: (id: string, value: string) => void;
  readonly problem?: Problem;
  readonly large?: boolean;
}

/** The map of a pool's lines, tapped: which outlets hang together, and what closes those of this line. As lines it can be typed too. */
export function LineMapField(props: Props) {
  const { parameter, answers, answer, problem, large } = props;
  const { id, label, help } = parameter;
  const value = answers[id] ?? '';
  const isTrials = parameter.tapped === 'trials';
  const unread = (isTrials ? parseTrials(value) : parseOpenings(value)).problems.length > 0;
  const [typed, setTyped] = useState(false);
  // What cannot be read as a map is shown as it was typed, so that it can be mended.
  const asLines = typed || unread;
  return (
    <Field
      id={id}
      label={label}
      help={asLines ? help : isTrials ? '' : 'The equipment end counts too.'}
      problem={problem}
      group={!asLines}
      large={large}
    >
      {asLines ? (
        <textarea
          id={id}
          aria-invalid={problem !== undefined}
          aria-describedby={`${id}-help`}
          rows={Math.max(2, value.split('\n').length + 1)}
          className={`${input} figures`}
          placeholder={parameter.example}
          value={value}
          onChange={({ target }) => {
            setTyped(true);
            answer(id, target.value);
          }}
          spellCheck={false}
        />
      ) : isTrials ? (
        <Trials {...props} value={value} />
      ) : (
        <Openings {...props} value={value} />
      )}
      {!unread && (
        <Button
          tone="bare"
          className="mt-1 text-sm"
          aria-label={`${typed ? 'Tap it instead' : 'Type it as lines'}: ${label}`}
          onClick={() => setTyped(!typed)}
        >
          {typed ? 'Tap it instead' : 'Type it as lines'}
        </Button>
      )}
    </Field>
  );
}

/** Adds the next outlet of a sort by a tap, or one by its name. */
function AddOutlet({ there, add }: { readonly there: readonly string[]; readonly add: (name: string) => void }) {
  const [name, setName] = useState('');
  const take = () => {
    const clean = name.trim().replace(/\s+/g, ' ');
    if (clean !== '') add(clean);
    setName('');
  };
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      {sorts.map(([sort, alone]) => (
        <Button key={sort} tone="quiet" className="px-3" onClick={() => add(nextOutlet(sort, alone, there))}>
          + {sort}
        </Button>
      ))}
      <span className="flex min-w-48 flex-1 gap-1.5">
        <input
          aria-label="Another outlet by its name"
          placeholder="Spa jet 1"
          className={input}
          value={name}
          onChange={({ target }) => setName(target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            take();
          }}
        />
        <Button tone="quiet" className="px-3" onClick={take} disabled={name.trim() === ''}>
          Add
        </Button>
      </span>
    </div>
  );
}

/** The openings of this line, each with what closes it. */
function Openings({ parameter: { id }, value, answer }: Props & { readonly value: string }) {
  const { openings } = parseOpenings(value);
  const put = (names: readonly string[]) => answer(id, names.join('\n'));
  const names = openings.map(({ name }) => name);
  return (
    <>
      {openings.length > 0 && (
        <ol className="divide-y divide-line border-y border-line">
          {openings.map((opening, index) => (
            <li key={opening.name} className="flex items-center gap-2 py-1">
              <span className="figures w-6 shrink-0 text-quiet">{index + 1}</span>
              <span className="min-w-0 flex-1 leading-tight">{opening.place}</span>
              <Dropdown<Closing>
                className="!w-44 shrink-0"
                label={`${opening.place} is closed by`}
                options={closings}
                value={closingOf(opening)}
                change={(closing) => put(names.with(index, openingText(opening.place, closing)))}
              />
              <Button tone="bare" onClick={() => put(names.toSpliced(index, 1))}>
                ×<span className="sr-only">Take off {opening.place}</span>
              </Button>
            </li>
          ))}
        </ol>
      )}
      <AddOutlet there={openings.map(({ place }) => place)} add={(name) => put([...names, name])} />
    </>
  );
}

/** Air let into one outlet after another: those that answer hang on the same line. */
function Trials({ parameter: { id }, answers, value, answer }: Props & { readonly value: string }) {
  const [added, setAdded] = useState<readonly string[]>([]);
  const { trials } = parseTrials(value);
  const known = outletsOf(answers.openings ?? '', value);
  const outlets = [...known, ...added.filter((name) => known.every((one) => one.toLowerCase() !== name.toLowerCase()))];
  const is = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  const put = (next: typeof trials) => answer(id, trialsText(next));
  const untried = outlets.filter((name) => trials.every(({ at }) => !is(at, name)));
  const groups = lineGroups(trials);
  return (
    <>
      <p className="text-sm text-quiet">Let a little air into one outlet, and tap those that bubble. They hang on one line.</p>
      <ul className="mt-1 space-y-2">
        {trials.map((trial, index) => (
          <li key={trial.at} className="border-l-4 border-line pl-3">
            <p className="flex items-center justify-between gap-2">
              <span>
                Air in at <b>{trial.at}</b>: {trial.answered.length === 0 ? 'nothing answers' : 'these answer'}
              </span>
              <Button tone="bare" onClick={() => put(trials.toSpliced(index, 1))}>
                ×<span className="sr-only">Take off the trial at {trial.at}</span>
              </Button>
            </p>
            <fieldset aria-label={`What answered ${trial.at}`} className="flex flex-wrap gap-1.5">
              {outlets
                .filter((name) => !is(name, trial.at))
                .map((name) => {
                  const on = trial.answered.some((one) => is(one, name));
                  return (
                    <Button
                      key={name}
                      tone="quiet"
                      aria-pressed={on}
                      className={`px-3 ${on ? 'border-2 border-action font-semibold' : ''}`}
                      onClick={() => put(trials.with(index, turned(trial, name)))}
                    >
                      {on && '✓ '}
                      {name}
                    </Button>
                  );
                })}
            </fieldset>
          </li>
        ))}
      </ul>
      {untried.length > 0 && (
        <fieldset className="mt-2 flex flex-wrap items-center gap-1.5" aria-label="Air put in at">
          <span className="text-sm">Air in at</span>
          {untried.map((at) => (
            <Button key={at} tone="quiet" className="px-3" onClick={() => put([...trials, { at, answered: [] }])}>
              {at}
            </Button>
          ))}
        </fieldset>
      )}
      <AddOutlet there={outlets} add={(name) => setAdded([...added, name])} />
      {groups.length > 0 && (
        <div className="mt-2" data-testid="lines-found">
          <p className="text-sm">
            {groups.length} line{groups.length === 1 ? '' : 's'} by the trials. This test is of:
          </p>
          <div className="mt-1 flex flex-wrap gap-1.5">
            {groups.map((group) => (
              <Button
                key={group.join()}
                tone="quiet"
                className="px-3 text-left"
                onClick={() => answer('openings', openingsOfLine(group, answers.openings ?? ''))}
              >
                {group.join(', ')}
              </Button>
            ))}
          </div>
        </div>
      )}
    </>
  );
}
