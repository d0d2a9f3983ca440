'use client';

import { useEffect, useMemo } from 'react';
import { boundaryStates, type Said, said, sightAsHeld, tracesOf } from '@/core/judging';
import { meaningOf, verdictWords } from '@/core/record';
import { simulatedGauge } from '@/core/simulation';
import type { OpenRun } from '@/device/use-run';
import { SignalLine } from '@/features/frame/signal-line';
import { To } from '@/features/frame/source';
import { speak } from '@/features/run/alarm';
import type { PlanFrom } from '@/features/run/go-on';
import { Occupier } from '@/features/run/occupier';
import { Photographs, photographsOf } from '@/features/run/photographs';
import { CoursePicture } from '@/features/run/pictures/course-picture';
import { SightFigures } from '@/features/sight/sight-figures';
import { button, heading, link, quietButton, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice, Simulated } from '@/ui/notice';
import { useButtonKeys } from '@/ui/use-shortcuts';
import { useSize } from '@/ui/use-size';
import { VerdictMark } from '@/ui/verdict-mark';
import { GuardWatch } from './guard-watch';
import { NextSteps } from './next-steps';
import { SignPanel } from './sign-panel';

/** The answer in one line, why, how sure, what was not covered, and what can be done next. */
export function VerdictScreen({
  open,
  goRun,
  goPlan,
  goLocate,
  openRun,
}: {
  readonly open: OpenRun;
  readonly goRun: () => void;
  readonly goPlan: (from: PlanFrom) => void;
  readonly goLocate: () => void;
  readonly openRun: (run: string) => void;
}) {
  useButtonKeys();
  const { run, test, judgement, events, attempts } = open;
  const { plan } = run;
  const shown = judgement.provisional;
  const gauge = useMemo(() => simulatedGauge(plan, events, run.id), [plan, events, run.id]);
  const traced = useMemo(() => tracesOf(plan, judgement, events, gauge, 0), [plan, judgement, events, gauge]);
  const [frame, size] = useSize();
  const reasons = said(plan, judgement);
  const weighty = reasons.filter(({ weight }) => weight !== 'note');
  const notes = reasons.filter(({ weight }) => weight === 'note');
  const finished = judgement.verdict !== 'in progress';
  useEffect(() => speak(`${verdictWords[shown].title}. ${meaningOf(plan, shown)}`), [plan, shown]);
  return (
    <main className="mx-auto max-w-4xl px-4 pb-16 pt-3">
      <header className="flex flex-wrap items-center justify-between gap-3 text-sm text-quiet">
        <span>
          <To place={{ at: 'today' }} className="underline">
            Today
          </To>{' '}
          · {test.site} · {test.system}
        </span>
        <SignalLine />
      </header>
      <div className="mt-3 flex items-start gap-4">
        <span className="pt-1.5">
          <VerdictMark verdict={shown} size={52} withWord={false} />
        </span>
        <div>
          <h1 className="text-4xl font-semibold tracking-tight" data-testid="verdict">
            {verdictWords[shown].title}
          </h1>
          <p className="text-lg">{meaningOf(plan, shown)}</p>
          {judgement.simulated && (
            <p className="mt-1">
              <Simulated /> <span className="text-quiet">practice, not proof of a real installation</span>
            </p>
          )}
        </div>
      </div>
      {!finished && shown !== 'in progress' && (
        <div className="mt-3">
          <Notice tone="caution">The test stays in progress until its closing steps are done.</Notice>
        </div>
      )}
      {attempts.length > 1 && (
        <nav aria-label="Attempts" className="mt-4 flex flex-wrap gap-2">
          {attempts.map(({ id, number }) => (
            <button
              key={id}
              type="button"
              className={id === run.id ? button : quietButton}
              aria-current={id === run.id}
              onClick={() => openRun(id)}
            >
              Attempt {number}
            </button>
          ))}
        </nav>
      )}
      <section className="mt-5" aria-label="Why">
        <h2 className={subheading}>Why</h2>
        <ul className="mt-1 space-y-2">
          {weighty.map((reason) => (
            <Reason key={reason.code + reason.sentence} reason={reason} />
          ))}
          {weighty.length === 0 && <li className="text-quiet">Nothing is decided yet.</li>}
        </ul>
        {notes.length > 0 && (
          <Disclosure className="mt-3" look="font-medium text-quiet" open={notes.length <= 4} title={<>Also noted ({notes.length})</>}>
            <ul className="mt-1 space-y-1 text-quiet">
              {notes.map((note) => (
                <li key={note.code + note.sentence}>{note.sentence}</li>
              ))}
            </ul>
          </Disclosure>
        )}
      </section>
      <section className="mt-5" aria-label="Trace">
        <div ref={frame} className="slab h-72 w-full overflow-hidden pt-2">
          <CoursePicture
            plan={plan}
            judgement={judgement}
            events={events}
            traced={traced}
            width={Math.max(300, size.width - 2)}
            height={270}
            narrow={size.width < 600}
          />
        </div>
      </section>
      {photographsOf(events).length > 0 && (
        <section className="mt-5" aria-label="Photographs">
          <h2 className={subheading}>Photographs</h2>
          <Photographs events={events} {...(plan.evidence === undefined ? {} : { evidence: plan.evidence })} />
        </section>
      )}
      <section className="mt-5 grid gap-6 sm:grid-cols-2">
        <div>
          <h2 className={subheading}>What it could see</h2>
          <SightFigures parts={sightAsHeld(plan, judgement)} says={plan.sightSays} />
          <Disclosure look="py-1 text-sm text-quiet underline" title="Where the limit comes from">
            {plan.derivation.map((line) => (
              <p key={line} className="text-sm">
                {line}
              </p>
            ))}
          </Disclosure>
        </div>
        <div>
          <h2 className={subheading}>Not covered</h2>
          <ul className="list-inside list-[square]">
            {plan.notTested.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <h2 className={`${subheading} mt-3`}>Its edges</h2>
          <ul className="list-inside list-[square]">
            {boundaryStates(plan, judgement.phases).map(({ id, label, how, proved }) => (
              <li key={id}>
                {label}: <span className={proved ? '' : 'font-medium text-caution'}>{how}</span>
              </li>
            ))}
          </ul>
          <p className="mt-1 text-sm text-quiet">Local code, the maker’s instructions and licensed practice come first.</p>
        </div>
      </section>
      {finished && (
        <div className="mt-5">
          <Occupier plan={plan} judgement={judgement} />
        </div>
      )}
      <NextSteps open={open} goRun={goRun} goPlan={goPlan} goLocate={goLocate} />
      {finished && <GuardWatch open={open} />}
      {finished && test.sealed === undefined && open.mayWrite && <SignPanel testId={test.id} />}
      {test.sealed !== undefined && (
        <p className="mt-6">
          Sealed as certificate{' '}
          <a className={link} href={`/certificates/test/${test.id}`}>
            {test.sealed}
          </a>
          . What is written now is kept, flagged and not judged; looks at a guard gauge are held against how it was left.
        </p>
      )}
      <h2 className={`${heading} sr-only`}>End</h2>
    </main>
  );
}

function Reason({ reason }: { readonly reason: Said }) {
  return (
    <li className="text-lg leading-snug">
      {reason.sentence}
      {reason.working.length > 0 && (
        <Disclosure look="text-sm text-quiet" title="Show the sum">
          {reason.working.map((line) => (
            <p key={line} className="figures text-sm">
              {line}
            </p>
          ))}
        </Disclosure>
      )}
    </li>
  );
}
