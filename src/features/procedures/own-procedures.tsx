'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { FigureView } from '@/core/library';
import { type Unit, unitLabel } from '@/core/quantities';
import { Button } from '@/ui/button';
import { subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { post } from '@/ui/post';
import { PostForm } from '@/ui/post-form';
import { dayText } from '@/ui/when';
import type { WordsField } from '@/ui/words-form';

export interface OwnVersion {
  readonly id: string;
  readonly title: string;
  readonly version: string;
  readonly reference: string;
  readonly figures: readonly { readonly figure: string; readonly value: string }[];
  readonly withdrawn: boolean;
  readonly publishedBy: string;
  readonly publishedAt: string;
}

/** The firm's own procedures that are copies of this one, by version, and for supervisors publishing them. */
export function OwnProcedures({
  base,
  baseTitle,
  figures,
  versions,
  mayPublish,
}: {
  readonly base: string;
  readonly baseTitle: string;
  readonly figures: readonly FigureView[];
  /** Newest first within each. */
  readonly versions: readonly OwnVersion[];
  readonly mayPublish: boolean;
}) {
  const ids = [...new Set(versions.map(({ id }) => id))];
  if (figures.length === 0 || (ids.length === 0 && !mayPublish)) return null;
  return (
    <section aria-label="Own procedures">
      <h2 className={subheading}>The firm’s own</h2>
      <p className="text-sm text-quiet">
        Copies of this procedure with figures changed inside safe bounds, by the firm’s own code. Tests keep the version that they ran
        under.
      </p>
      <ul className="mt-2 divide-y divide-line border-y border-line empty:hidden">
        {ids.map((id) => (
          <Own key={id} versions={versions.filter((one) => one.id === id)} {...{ base, figures, mayPublish }} />
        ))}
      </ul>
      {mayPublish && (
        <Disclosure className="mt-3 max-w-3xl" look="underline" title="Publish an own procedure">
          <div className="mt-2">
            <PublishForm
              base={base}
              figures={figures}
              submit="Publish version 1"
              title={`Own ${baseTitle.toLowerCase()}`}
              reference=""
              values={{}}
            />
          </div>
        </Disclosure>
      )}
    </section>
  );
}

function Own({
  versions,
  base,
  figures,
  mayPublish,
}: {
  readonly versions: readonly OwnVersion[];
  readonly base: string;
  readonly figures: readonly FigureView[];
  readonly mayPublish: boolean;
}) {
  const router = useRouter();
  const [fault, setFault] = useState<string>();
  const [newest] = versions;
  const label = (id: string) => figures.find((figure) => figure.id === id);
  const withdraw = async () => {
    const result = await post('POST /api/own-procedures/[id]/withdraw', { id: newest.id });
    if (result.ok) router.refresh();
    else setFault(result.problem.message);
  };
  return (
    <li className="py-3">
      <p>
        <b className="font-medium">{newest.title}</b>{' '}
        <span className="text-quiet">
          version {newest.version}, {newest.reference}
        </span>
        {newest.withdrawn && <strong className="ml-2 font-medium text-caution">Withdrawn: it can be planned no more</strong>}
      </p>
      <ul className="text-sm text-quiet">
        {versions.map(({ version, withdrawn, figures: changed, publishedBy, publishedAt }) => (
          <li key={version}>
            Version {version}, {publishedBy}, {dayText(Date.parse(publishedAt))}:{' '}
            {withdrawn
              ? 'withdrawn'
              : changed
                  .map(({ figure, value }) => {
                    const known = label(figure);
                    return `${known?.label ?? figure} ${value} ${unitLabel((known?.unit ?? '') as Unit)} (procedure ${known?.value ?? '–'})`;
                  })
                  .join('; ')}
          </li>
        ))}
      </ul>
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      {mayPublish && (
        <Disclosure
          className="mt-1 text-sm"
          look="underline"
          title={
            <>
              {newest.withdrawn ? 'Publish it again' : 'Publish the next version, or withdraw it'}
              <span className="sr-only"> of {newest.title}</span>
            </>
          }
        >
          <div className="mt-2 max-w-3xl space-y-3">
            <PublishForm
              base={base}
              id={newest.id}
              figures={figures}
              submit={`Publish version ${Number(newest.version) + 1}`}
              title={newest.title}
              reference={newest.reference}
              values={Object.fromEntries(newest.figures.map(({ figure, value }) => [figure, value]))}
            />
            {!newest.withdrawn && (
              <Button tone="quiet" onClick={withdraw}>
                Withdraw it
              </Button>
            )}
          </div>
        </Disclosure>
      )}
    </li>
  );
}

/** What a figure may be: from its loosest to what still makes sense. */
function boundsOf({ value, stricter, loosest = value, bound }: FigureView): string {
  const strict = bound === undefined ? '' : stricter === 'higher' ? `, at most ${bound}` : `, at least ${bound}`;
  return `Procedure ${value}; ${stricter === 'higher' ? `at least ${loosest}` : `at most ${loosest}`}${strict}. Leave empty to keep it.`;
}

function PublishForm({
  base,
  id,
  figures,
  submit,
  title,
  reference,
  values,
}: {
  readonly base: string;
  readonly id?: string;
  readonly figures: readonly FigureView[];
  readonly submit: string;
  readonly title: string;
  readonly reference: string;
  readonly values: Readonly<Record<string, string>>;
}) {
  const router = useRouter();
  const fields: readonly WordsField[] = [
    { name: 'title', label: 'Title', initial: title },
    { name: 'reference', label: 'The firm’s code', help: 'Number and date of the code that it follows.', initial: reference },
    ...figures.map((figure) => ({
      name: figure.id,
      label: `${figure.label}, ${unitLabel(figure.unit as Unit)}`,
      help: boundsOf(figure),
      initial: values[figure.id] ?? '',
    })),
  ];
  return (
    <PostForm<{ readonly id: string; readonly version: number }>
      key={submit}
      route="POST /api/own-procedures"
      submit={submit}
      done={() => router.refresh()}
      fields={fields}
      columns
      shape={(typed) => ({
        id,
        base,
        title: typed.title,
        reference: typed.reference,
        figures: figures
          .map((figure) => ({ figure: figure.id, value: String(typed[figure.id] ?? '').trim() }))
          .filter(({ value }) => value !== ''),
      })}
    />
  );
}
