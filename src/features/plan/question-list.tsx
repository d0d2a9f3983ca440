'use client';

import { useState } from 'react';
import { isAsked, type Parameter, type Procedure } from '@/core/procedures';
import { type Problem, unitLabel } from '@/core/quantities';
import { Question } from '@/ui/question';
import { weekday } from '@/ui/when';
import { LineMapField } from './line-map-field';
import type { Draft, Source } from './use-draft';

const isWide = ({ kind }: Parameter): boolean => kind === 'lines' || kind === 'components';

const words: Readonly<Record<Source, string>> = {
  'last test': 'as last time',
  register: 'from the register',
  schedule: 'from the schedule',
  usual: 'as usual',
  'attempt before': 'as before',
  copied: 'copied',
};

/** An answer as people read it. */
const shown = (parameter: Parameter, value: string): string =>
  parameter.kind === 'choice'
    ? (parameter.options.find((option) => option.value === value)?.label ?? value)
    : value.trim() === ''
      ? 'none'
      : parameter.kind === 'quantity'
        ? `${value}${/[^\d\s.,/+−-]/.test(value) ? '' : ` ${unitLabel(parameter.unit)}`}`
        : value.split('\n').join(' · ');

/**
 * What is asked: open questions first, large, in trade order; what is known already stands below in one line each, with where it comes
 * from, and is opened by a tap. Starting the test confirms it.
 */
export function QuestionList({
  procedure,
  draft,
  answer,
  problems,
}: {
  readonly procedure: Procedure;
  readonly draft: Draft;
  readonly answer: (id: string, value: string) => void;
  /** Those that are said by now. */
  readonly problems: readonly Problem[];
}) {
  const [opened, setOpened] = useState<ReadonlySet<string>>(() => new Set());
  const of = (id: string) => problems.find(({ field }) => field === id);
  const asked = procedure.parameters.filter((parameter) => isAsked(procedure, parameter, draft.answers));
  // An answer given here stays where its question stood.
  const isKnown = ({ id }: Parameter) => draft.from[id] !== undefined && !opened.has(id) && of(id) === undefined;
  const open = asked.filter((parameter) => !isKnown(parameter));
  const known = asked.filter(isKnown);
  return (
    <>
      {open.length > 0 && (
        <div className="grid gap-x-4 gap-y-5 sm:grid-cols-2">
          {open.map((parameter) => (
            <div key={parameter.id} className={isWide(parameter) || parameter.kind === 'choice' ? 'sm:col-span-2' : ''}>
              {parameter.kind === 'lines' && parameter.tapped !== undefined ? (
                <LineMapField
                  parameter={parameter}
                  answers={draft.answers}
                  answer={answer}
                  problem={of(parameter.id)}
                  large={(draft.answers[parameter.id] ?? '').trim() === '' && parameter.optional !== true}
                />
              ) : (
                <Question
                  parameter={parameter}
                  value={draft.answers[parameter.id] ?? ''}
                  answer={answer}
                  problem={of(parameter.id)}
                  large={(draft.answers[parameter.id] ?? '').trim() === ''}
                />
              )}
            </div>
          ))}
        </div>
      )}
      {known.length > 0 && (
        <section aria-label="Known already">
          <h2 className="font-medium">
            {draft.carriedOn === undefined ? 'Known already' : `As on ${weekday(draft.carriedOn)}`}
            <span className="font-normal text-quiet">: starting confirms it</span>
          </h2>
          <ul className="mt-1 divide-y divide-line border-y border-line">
            {known.map((parameter) => (
              <li key={parameter.id}>
                <button
                  type="button"
                  className="flex min-h-11 w-full items-baseline gap-3 py-1.5 text-left hover:bg-sunken"
                  onClick={() => setOpened(new Set([...opened, parameter.id]))}
                >
                  <span className="w-2/5 shrink-0 text-sm leading-tight text-quiet">{parameter.label}</span>
                  <span className="min-w-0 flex-1 truncate">{shown(parameter, draft.answers[parameter.id] ?? '')}</span>
                  <span className="shrink-0 text-xs text-quiet">{words[draft.from[parameter.id]]}</span>
                  <span className="sr-only">, change it</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
