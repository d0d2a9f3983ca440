import type { Metadata } from 'next';
import { SignRemote } from '@/features/certify/sign-remote';
import { PaperView } from '@/features/papers/paper-view';
import { paperIn } from '@/server/papers';
import { linkWords, readLink } from '@/server/sign-links';
import { Notice } from '@/ui/notice';

export const metadata: Metadata = { title: 'Sign a certificate', robots: { index: false }, referrer: 'no-referrer' };
export const dynamic = 'force-dynamic';

/** For whoever holds the private link: the paper as it is to be sealed, and the place to sign it. */
export default async function SignPage({ params }: { readonly params: Promise<{ token: string }> }) {
  const { token } = await params;
  const link = await readLink(token);
  if (!link.ok)
    return (
      <main className="mx-auto max-w-3xl space-y-4 p-6">
        <h1 className="text-3xl font-semibold tracking-tight">This link leads nowhere</h1>
        <p>It may be mistyped or cut short. Open it again from the message that it came in, or ask the firm for a new one.</p>
      </main>
    );
  const { state, name, firm, record } = link.value;
  const why = linkWords(state);
  const paper = why === undefined ? await paperIn(record) : undefined;
  return (
    <main className="mx-auto max-w-3xl space-y-5 p-4 sm:p-6">
      <p className="text-quiet">{firm}</p>
      <h1 className="text-3xl font-semibold tracking-tight">Read and sign</h1>
      {why !== undefined && <Notice tone="caution">{why}</Notice>}
      {paper !== undefined && (
        <>
          <p>
            {firm} asks {name} to sign for this test. You sign for what it says, as customer or as witness of it; it is sealed afterwards
            and you can have a copy. Not yours? Close this page.
          </p>
          {paper.ok ? (
            <PaperView paper={paper.value} picture={(hash) => `/api/sign/${token}/picture/${hash}`} />
          ) : (
            <Notice tone="caution">{paper.problem.message}</Notice>
          )}
          <SignRemote token={token} name={name} />
        </>
      )}
    </main>
  );
}
