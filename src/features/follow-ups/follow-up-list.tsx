'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { followUpKinds, followUpWords, type ShownFollowUp } from '@/core/register';
import { Button } from '@/ui/button';
import { link } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { PostForm } from '@/ui/post-form';
import { ShareText } from '@/ui/share-text';
import { dayText } from '@/ui/when';

/** What is still to be done: until when, by whom, and the word that ends it. */
export function FollowUpList({
  followUps,
  today,
  after,
}: {
  readonly followUps: readonly ShownFollowUp[];
  readonly today: string | undefined;
  /** Once one was ended; the page is asked for anew where nothing is said. */
  readonly after?: () => void;
}) {
  const router = useRouter();
  const [ending, setEnding] = useState<string>();
  return (
    <ul className="mt-2 divide-y divide-line border-y border-line">
      {followUps.map(({ id, kind, system, site, due, who, what, tag, ended }) => {
        const late = ended === undefined && today !== undefined && due < today;
        return (
          <li key={id} className="py-2">
            <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-1">
              <div>
                <p>
                  <b className={late ? 'text-stop' : ''}>{followUpWords[kind].title}:</b> <b>{system}</b>{' '}
                  <span className="text-quiet">{site}</span>
                </p>
                <p className={`text-sm ${late ? 'text-stop' : 'text-quiet'}`}>
                  {followUpWords[kind].by} {dayText(Date.parse(`${due}T12:00`))}
                  {late && ', which is over'} · {who === '' ? 'anybody' : who}
                  {what !== '' && ` · ${what}`}
                </p>
                {ended !== undefined && (
                  <p className="text-sm text-quiet">
                    Ended {dayText(ended.at)} by {ended.by}: {ended.how}
                  </p>
                )}
              </div>
              {ended === undefined && (
                <div className="flex flex-wrap items-center gap-3">
                  <a className={link} href={`/api/follow-ups/${id}/calendar`}>
                    Calendar
                  </a>
                  <Button tone="quiet" onClick={() => setEnding(ending === id ? undefined : id)} aria-expanded={ending === id}>
                    Done <span className="sr-only">{system}</span>
                  </Button>
                </div>
              )}
            </div>
            {tag !== undefined && ended === undefined && (
              <Disclosure look="text-sm" title="Tag for the gauge">
                <p className="mt-1 text-sm">
                  Whoever stands before it opens <span className="figures break-all">{tag}</span> and types what it shows; no account is
                  needed.
                </p>
                <ShareText text={tag} />
              </Disclosure>
            )}
            {ending === id && (
              <div className="mt-2 max-w-md">
                <PostForm
                  route="POST /api/follow-ups/[id]/end"
                  parts={{ id }}
                  submit="End it"
                  fields={[{ name: 'outcome', label: 'What was done' }]}
                  done={() => {
                    setEnding(undefined);
                    (after ?? router.refresh)();
                  }}
                />
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}

/** Another thing that is to be done on a system. */
export function AddFollowUp({
  systemId,
  testId,
  people,
}: {
  readonly systemId: string;
  readonly testId?: string;
  readonly people: readonly { readonly id: string; readonly name: string }[];
}) {
  const router = useRouter();
  return (
    <Disclosure look="font-medium" title="Add a follow-up">
      <div className="mt-2">
        <PostForm
          route="POST /api/follow-ups"
          extra={{ systemId, ...(testId === undefined ? {} : { testId }) }}
          submit="Add it"
          fields={[
            {
              name: 'kind',
              label: 'What is to be done',
              kind: 'choice',
              options: followUpKinds.map((kind) => ({ value: kind, label: followUpWords[kind].title })),
            },
            { name: 'due', label: 'When', kind: 'date' },
            {
              name: 'person',
              label: 'Who',
              kind: 'choice',
              options: [{ value: '', label: 'Anybody' }, ...people.map(({ id, name }) => ({ value: id, label: name }))],
            },
            { name: 'what', label: 'What exactly, if you like' },
          ]}
          done={() => router.refresh()}
        />
      </div>
    </Disclosure>
  );
}
