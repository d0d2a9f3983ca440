'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/ui/button';
import { post } from '@/ui/post';
import { dayText, hourText } from '@/ui/when';

export interface ShownMessage {
  readonly id: string;
  readonly recipient: string;
  readonly subject: string;
  readonly state: string;
  readonly tries: number;
  readonly said: string;
  readonly createdAt: number;
  readonly nextAt: number;
  readonly settledAt?: number;
}

const moment = (at: number): string => `${dayText(at)}, ${hourText(at)}`;

/** What became of a mail, in words: nothing is called sent that no server took. */
function wordsOf({ state, tries, said, nextAt, settledAt }: ShownMessage): { readonly text: string; readonly bad: boolean } {
  const when = settledAt === undefined ? '' : ` ${moment(settledAt)}`;
  switch (state) {
    case 'sent':
      return { text: `Taken by the mail server${when}. Whether it was delivered is not known.`, bad: false };
    case 'delivered':
      return { text: `Delivered${when}.`, bad: false };
    case 'refused':
      return { text: `Refused${when}: ${said}`, bad: true };
    case 'bounced':
      return { text: `Came back${when}: ${said}`, bad: true };
    case 'given up':
      return { text: `Given up after ${tries} tries${when}: ${said}`, bad: true };
    default:
      return tries === 0
        ? { text: 'Waits to be sent.', bad: false }
        : {
            text: `Not sent yet, tried ${tries === 1 ? 'once' : `${tries} times`}: ${said || 'being tried now'}. Next try ${moment(nextAt)}.`,
            bad: said !== '',
          };
  }
}

/** What went to whom, and what became of it; what failed can be tried again. */
export function MessageList({
  messages,
  withSubject = false,
}: {
  readonly messages: readonly ShownMessage[];
  readonly withSubject?: boolean;
}) {
  const router = useRouter();
  const [fault, setFault] = useState<string>();
  const again = async (id: string) => {
    const result = await post('POST /api/messages/[id]/retry', { id });
    setFault(result.ok ? undefined : result.problem.message);
    router.refresh();
  };
  return (
    <>
      {fault !== undefined && (
        <p role="alert" className="font-medium text-stop">
          {fault}
        </p>
      )}
      <ul className="divide-y divide-line border-y border-line">
        {messages.map((one) => {
          const { text, bad } = wordsOf(one);
          return (
            <li key={one.id} className="py-2">
              <p className="break-all font-medium">{one.recipient}</p>
              {withSubject && <p>{one.subject}</p>}
              <p className={`text-sm ${bad ? 'text-stop' : 'text-quiet'}`}>{text}</p>
              <p className="text-sm text-quiet">Asked for {moment(one.createdAt)}</p>
              {one.state !== 'sent' && one.state !== 'delivered' && (
                <Button tone="quiet" className="mt-1" onClick={() => again(one.id)}>
                  Try now <span className="sr-only">{one.recipient}</span>
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}
