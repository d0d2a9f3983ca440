'use client';

import { useState } from 'react';
import type { TestVerdict } from '@/core/course';
import { addressOf } from '@/core/permissions';
import { verdictWords } from '@/core/record';
import { PaperView } from '@/features/papers/paper-view';
import { input } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import type { OwnCheck } from './own-check';

interface Facts {
  readonly state: string;
  readonly number?: string;
  readonly verdict: TestVerdict;
  readonly signer?: string;
  readonly pages?: { readonly state: 'as sealed' | 'altered' | 'earlier layout'; readonly differs?: string };
  readonly site?: string;
  readonly system?: string;
  readonly issuedOn?: string;
  /** The later certificate that stands in its place. */
  readonly correctedBy?: string;
  /** Why nobody is to rely on it any more. */
  readonly withdrawn?: string;
  /** The day on which it came in from another installation. */
  readonly imported?: string;
  readonly simulated: boolean;
  readonly judgedDifferently: readonly number[];
  readonly planAltered: readonly number[];
}

const words: Record<string, { readonly tone: 'plain' | 'caution' | 'stop'; readonly text: string }> = {
  genuine: { tone: 'plain', text: 'Genuine: nothing in the record was changed since it was sealed, and the signer is known here.' },
  'intact, signer unknown': {
    tone: 'caution',
    text: 'Intact, but the signer is not known here. Compare the signer’s fingerprint with what the firm tells you.',
  },
  altered: { tone: 'stop', text: 'Altered: this record is not what was sealed. Do not rely on it.' },
  'not sealed': { tone: 'caution', text: 'Not sealed: this is a draft or a copy without its seal. Ask for the sealed certificate.' },
  'key revoked': { tone: 'stop', text: 'The key that sealed this was withdrawn. Ask the firm for a new certificate.' },
};

/** Checks a file that someone holds; nothing is kept. */
export function CheckFile() {
  const [facts, setFacts] = useState<Facts>();
  const [own, setOwn] = useState<OwnCheck>();
  const [fault, setFault] = useState<string>();
  const check = async (file: File | undefined) => {
    if (file === undefined) return;
    setFacts(undefined);
    setOwn(undefined);
    setFault(undefined);
    try {
      // Seal and signer are looked at here; the server says what became of it since, and makes the pages again.
      const { checkHere } = await import('./own-check');
      const mine = await checkHere(file).catch(() => undefined);
      if (mine?.ok === true) setOwn(mine.value);
      const response = await fetch(addressOf('POST /api/check'), { method: 'POST', body: file });
      const answer = await response.json();
      if (response.ok) setFacts(answer);
      else setFault(answer.problem?.message ?? 'The file could not be checked.');
    } catch {
      setFault('The server cannot be reached. Try again with signal.');
    }
  };
  return (
    <section className="space-y-3 border-t border-line pt-4" aria-label="Check a file">
      <label className="block font-medium">
        Certificate’s PDF or JSON
        <input
          type="file"
          accept=".pdf,.json,application/pdf,application/json"
          className={`${input} mt-1`}
          onChange={(event) => check(event.target.files?.[0])}
        />
      </label>
      <p className="text-sm text-quiet">The file is looked at and not kept.</p>
      {fault !== undefined && (
        <Notice tone="stop" role="alert">
          {fault}
        </Notice>
      )}
      {facts !== undefined && (
        <div role="status" data-testid="check-result" className="space-y-2">
          <Notice tone={words[facts.state].tone}>{words[facts.state].text}</Notice>
          {own !== undefined && (
            <Notice tone={own.state === facts.state ? 'plain' : 'stop'}>
              {own.state === facts.state
                ? 'Seal and signer were checked in this browser too, with the same result.'
                : `This browser comes to another result: ${words[own.state].text} Rely on neither, and ask the firm.`}
            </Notice>
          )}
          {facts.pages?.state === 'altered' && (
            <Notice tone="stop">
              The pages of this PDF are not what its record gives: trust the record, not these pages. {facts.pages.differs}
            </Notice>
          )}
          {facts.pages?.state === 'earlier layout' && (
            <Notice tone="caution">Its pages were set by an earlier layout and cannot be compared here: trust the record.</Notice>
          )}
          {facts.pages?.state === 'as sealed' && <Notice>The pages are exactly what the record gives.</Notice>}
          <p>
            {facts.number === undefined ? 'No number' : `Certificate ${facts.number}`}
            {facts.issuedOn !== undefined && `, ${facts.issuedOn}`}: <b>{verdictWords[facts.verdict]?.title ?? facts.verdict}</b>.{' '}
            {facts.system} {facts.site !== undefined && `at ${facts.site}`}
          </p>
          {facts.simulated && (
            <Notice tone="caution">
              Simulated: its readings came from a simulated gauge. It is practice and proves nothing about a real installation.
            </Notice>
          )}
          {facts.judgedDifferently.length > 0 && (
            <Notice tone="caution">
              Judged again by this version, attempt {facts.judgedDifferently.join(', ')} comes out differently. What was sealed stands.
            </Notice>
          )}
          {facts.withdrawn !== undefined && (
            <Notice tone="stop">The firm has withdrawn this certificate: do not rely on it. {facts.withdrawn}</Notice>
          )}
          {facts.imported !== undefined && (
            <Notice tone="caution">
              It was sealed in another installation and came in here on {facts.imported} with the firm’s data: who sealed it and when, only
              the firm can say.
            </Notice>
          )}
          {facts.correctedBy !== undefined && (
            <Notice tone="caution">A later certificate, {facts.correctedBy}, stands in the place of this one. Ask for that.</Notice>
          )}
          {facts.planAltered.length > 0 && (
            <Notice tone="caution">The plan of attempt {facts.planAltered.join(', ')} was changed after it was made.</Notice>
          )}
          {facts.signer !== undefined && <p className="figures text-sm text-quiet">Signer {facts.signer}</p>}
        </div>
      )}
      {own !== undefined && facts !== undefined && own.state !== 'altered' && (
        <section aria-label="What the record says" className="pt-4">
          <h2 className="mb-2 text-xl font-semibold">What the record says</h2>
          <PaperView paper={own.paper} picture={() => undefined} />
        </section>
      )}
    </section>
  );
}
