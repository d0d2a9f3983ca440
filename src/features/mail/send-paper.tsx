'use client';

import { useRouter } from 'next/navigation';
import { subheading } from '@/ui/classes';
import { PostForm } from '@/ui/post-form';
import { useToast } from '@/ui/toasts';
import { MessageList, type ShownMessage } from './message-list';

/** Sends a sealed paper by mail, and shows what went to whom. */
export function SendPaper({
  certificateId,
  messages,
  simulated,
}: {
  readonly certificateId: string;
  readonly messages: readonly ShownMessage[];
  /** Mail goes to the stand-in and to nobody else. */
  readonly simulated: boolean;
}) {
  const router = useRouter();
  const say = useToast();
  return (
    <section aria-label="Send">
      <h2 className={subheading}>Send</h2>
      {simulated && <p className="text-sm text-caution">Simulated: no mail server is set, so mail goes to the stand-in and to nobody.</p>}
      <div className="mt-2">
        <PostForm
          key={messages.length}
          route="POST /api/certificates/[id]/send"
          parts={{ id: certificateId }}
          submit="Send the paper"
          shape={({ to, note }) => ({
            note,
            to: String(to)
              .split(/[\s,;]+/)
              .filter((one) => one !== ''),
          })}
          fields={[
            { name: 'to', label: 'To', help: 'Mail addresses, several apart by commas.' },
            { name: 'note', label: 'A note, if you like', kind: 'area' },
          ]}
          done={() => {
            say('In the outbox');
            router.refresh();
          }}
        />
      </div>
      {messages.length > 0 && (
        <>
          <h3 className="mt-4 font-medium">What went to whom</h3>
          <MessageList messages={messages} />
        </>
      )}
    </section>
  );
}
