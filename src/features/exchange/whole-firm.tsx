'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { addressOf } from '@/core/permissions';
import { useEvery } from '@/device/use-every';
import { Button, buttonLook } from '@/ui/button';
import { input, subheading } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { type Asked, post } from '@/ui/post';
import { Progress } from '@/ui/progress';
import { minuteText } from '@/ui/when';

interface Shown {
  readonly id: string;
  readonly kind: 'export' | 'import';
  readonly state: 'arriving' | 'waiting' | 'running' | 'done' | 'failed';
  readonly doing: string;
  readonly done: number;
  readonly total: number;
  readonly size: number;
  readonly said: readonly string[];
  readonly madeAt: number;
  readonly hasFile: boolean;
}

export interface Exchanges {
  readonly exchanges: readonly Shown[];
  /** The firm has nothing of its own yet. */
  readonly empty: boolean;
}

const pieceBytes = 2 * 1024 * 1024;
const everyMs = 1000;
const megabytes = (bytes: number): string => (bytes < 100_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

/** Sends a file in pieces, each again where the signal was lost; the server says from where. */
async function sendPieces(id: string, file: File, sent: (bytes: number) => void): Promise<string | undefined> {
  let have = 0;
  let fails = 0;
  while (have < file.size) {
    try {
      const response = await fetch(`${addressOf('POST /api/exchange/[id]/piece', { id })}?at=${have}`, {
        method: 'POST',
        body: file.slice(have, have + pieceBytes),
      });
      const answer = await response.json();
      if (!response.ok && response.status < 500 && response.status !== 429) return answer.problem?.message ?? 'The file could not be sent.';
      if (response.ok) {
        have = answer.have;
        fails = 0;
        sent(have);
        continue;
      }
    } catch {
      // No signal: again in a moment.
    }
    fails += 1;
    if (fails > 20) return 'The server cannot be reached. Choose the file again with signal.';
    await new Promise((resolve) => setTimeout(resolve, 1500));
  }
  return undefined;
}

/** All of the firm's data as a file, and such a file into a firm that is empty yet. */
export function WholeFirm({ first }: { readonly first: Exchanges }) {
  const [{ exchanges, empty }, setKnown] = useState(first);
  const router = useRouter();
  const [papers, setPapers] = useState(true);
  const [fault, setFault] = useState<string>();
  const [sending, setSending] = useState<{ readonly done: number; readonly total: number }>();
  const isUnderWay = exchanges.some(({ state }) => state === 'running' || state === 'waiting');
  const look = async () => {
    const response = await fetch(addressOf('GET /api/exchange')).catch(() => undefined);
    if (response?.ok !== true) return;
    const next = (await response.json()) as Exchanges;
    setKnown(next);
    // The firm has another name now.
    if (empty && !next.empty) router.refresh();
  };
  useEvery(everyMs, isUnderWay ? look : undefined);
  const begun = async (answer: Asked<unknown>) => {
    setFault(answer.ok ? undefined : answer.problem.message);
    await look();
  };
  const take = async (file: File | undefined) => {
    if (file === undefined) return;
    setFault(undefined);
    const made = await post<{ id: string }>('POST /api/exchange/import', {}, { size: file.size });
    if (!made.ok) return setFault(made.problem.message);
    setSending({ done: 0, total: file.size });
    const problem = await sendPieces(made.value.id, file, (done) => setSending({ done, total: file.size }));
    setSending(undefined);
    setFault(problem);
    await look();
  };
  return (
    <section aria-labelledby="whole-firm" className="space-y-4">
      <h2 id="whole-firm" className={subheading}>
        All of the firm’s data
      </h2>
      <p>
        Every test with its readings and pictures, every sealed record, the register and who wrote what: a zip of open files that any
        program can read. No passwords, no private keys.
      </p>
      <label className="flex min-h-11 items-center gap-2">
        <input type="checkbox" className="size-5 accent-(--action)" checked={papers} onChange={({ target }) => setPapers(target.checked)} />
        Papers as PDF too (about ten a second)
      </label>
      <Button onClick={async () => begun(await post('POST /api/exchange/export', {}, { papers }))} disabled={isUnderWay}>
        Export all of it
      </Button>
      {empty && (
        <div className="border-l-4 border-line pl-3">
          <label className="block font-medium">
            Take a firm’s export in
            <input
              type="file"
              accept=".zip,application/zip"
              className={`${input} mt-1`}
              disabled={isUnderWay || sending !== undefined}
              onChange={({ target }) => take(target.files?.[0])}
            />
          </label>
          <p className="mt-1 text-sm text-quiet">
            This firm is empty yet. People come in as put away and are invited anew; keys come with their public part, so that old seals
            stay valid. All of it comes in, or nothing.
          </p>
        </div>
      )}
      {sending !== undefined && <Progress label="Sending the file" done={sending.done} total={sending.total} />}
      {fault !== undefined && (
        <Notice tone="stop" role="alert">
          {fault}
        </Notice>
      )}
      {exchanges.length > 0 && (
        <ul className="divide-y divide-line border-y border-line" aria-label="Exports and imports">
          {exchanges.map((one) => (
            <li key={one.id} className="space-y-1 py-2">
              <p className="flex flex-wrap items-baseline justify-between gap-x-3">
                <b>{one.kind === 'export' ? 'Export' : 'Import'}</b>
                <span className="figures text-sm text-quiet">{minuteText(one.madeAt)}</span>
              </p>
              <State of={one} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function State({ of: one }: { readonly of: Shown }) {
  if (one.state === 'arriving') return <p className="text-quiet">The file did not arrive whole yet.</p>;
  if (one.state === 'waiting') return <p className="text-quiet">Waits for its turn.</p>;
  if (one.state === 'running') return <Progress label={one.doing === '' ? 'Begun' : one.doing} done={one.done} total={one.total} />;
  if (one.state === 'failed') return <Notice tone="stop">{one.said.join(' ')}</Notice>;
  return (
    <>
      {one.said.map((line) => (
        <p key={line}>{line}</p>
      ))}
      {one.kind === 'export' &&
        (one.hasFile ? (
          <a className={buttonLook('quiet')} href={addressOf('GET /api/exchange/[id]/file', { id: one.id })} download>
            Save the file ({megabytes(one.size)})
          </a>
        ) : (
          <p className="text-quiet">Its file lay here for a day and is gone.</p>
        ))}
    </>
  );
}
