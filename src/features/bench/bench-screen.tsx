'use client';

import Link from 'next/link';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { answersIn, type Calculation, calculationById, calculationKey, calculations, planOf, queryOf, startOf, work } from '@/core/bench';
import { type Answers, isAsked } from '@/core/procedures';
import { parseQuantity, toNumber, toSi } from '@/core/quantities';
import { localPerson } from '@/device/store';
import { DetectionCurve } from '@/features/sight/detection-curve';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { heading } from '@/ui/classes';
import { Question } from '@/ui/question';
import { SheetDialog } from '@/ui/sheet-dialog';
import { ThemeSwitch } from '@/ui/theme-switch';
import { useShortcuts } from '@/ui/use-shortcuts';
import { Answer, mainLine } from './answer';

interface Open {
  readonly calculation: Calculation;
  readonly answers: Answers;
}

const atStart = (calculation: Calculation): Open => ({ calculation, answers: startOf(calculation) });

function fromAddress(): Open {
  const query = [...new URLSearchParams(location.search)];
  const calculation = calculationById(new Map(query).get(calculationKey) ?? '') ?? calculations[0];
  return { calculation, answers: answersIn(calculation, query) };
}

/** Quick calculations with no job attached: the answer follows every key, and the address holds it all. */
export function BenchScreen() {
  // The page is made beforehand, without an address: what the address asks is read once it is on the screen.
  const [open, setOpen] = useState<Open>(() => atStart(calculations[0]));
  const [home, setHome] = useState({ href: '/sign-in', label: 'Sign in' });
  const [help, setHelp] = useState(false);
  const [copied, setCopied] = useState(false);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    const read = () => setOpen(fromAddress());
    read();
    setReady(true);
    if (localPerson() !== undefined) setHome({ href: '/today', label: 'Today' });
    const leave = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && event.target instanceof HTMLElement) event.target.blur();
    };
    addEventListener('popstate', read);
    addEventListener('keydown', leave);
    return () => {
      removeEventListener('popstate', read);
      removeEventListener('keydown', leave);
    };
  }, []);
  const { calculation, answers } = open;
  const worked = useMemo(() => work(calculation, answers), [calculation, answers]);
  const problems = worked.ok ? [] : worked.problems;

  const latest = useRef(open);
  latest.current = open;
  const show = useCallback((next: Open, way: 'push' | 'replace') => {
    const address = `/bench?${queryOf(next.calculation, next.answers)}`;
    if (way === 'push') history.pushState(null, '', address);
    // Past the router, which would draw the page anew at every key; the state it keeps there stays as it is.
    else History.prototype.replaceState.call(history, history.state, '', address);
    setOpen(next);
    setCopied(false);
  }, []);
  const answer = useCallback(
    (id: string, value: string) => {
      const { calculation: of, answers: given } = latest.current;
      show({ calculation: of, answers: { ...given, [id]: value } }, 'replace');
    },
    [show],
  );
  const choose = (next: Calculation) => {
    if (next.id !== calculation.id) show(atStart(next), 'push');
  };
  const beside = (step: number) => {
    const place = calculations.findIndex(({ id }) => id === calculation.id) + step;
    const next = calculations[(place + calculations.length) % calculations.length];
    choose(next);
    document.getElementById(`calculation-${next.id}`)?.focus();
  };
  const copy = async () => {
    await navigator.clipboard?.writeText(`${location.origin}/bench?${queryOf(calculation, answers)}`);
    setCopied(true);
  };
  const focusFirst = () => {
    const field = document.querySelector<HTMLElement>('[data-questions] input, [data-questions] textarea');
    field?.focus();
    if (field instanceof HTMLInputElement) field.select();
  };
  useShortcuts({
    n: () => beside(1),
    b: () => beside(-1),
    e: focusFirst,
    c: copy,
    r: () => show(atStart(calculation), 'push'),
    '?': () => setHelp(true),
  });

  return (
    <div className="mx-auto max-w-[90rem] px-4 pb-28 pt-3 lg:px-8 lg:pb-8">
      <header className="flex flex-wrap items-center justify-between gap-x-6 border-b border-line pb-2">
        <div className="flex items-baseline gap-4">
          <Link href="/" className="text-lg font-bold tracking-tight">
            Vast Stone
          </Link>
          <span className="text-quiet">Bench</span>
        </div>
        <span className="flex items-center gap-1">
          <Button tone="bare" className="px-2 text-quiet max-lg:hidden" onClick={() => setHelp(true)}>
            Keys
          </Button>
          <a href={home.href} className="inline-flex min-h-11 items-center px-2 font-medium underline">
            {home.label}
          </a>
          <ThemeSwitch />
        </span>
      </header>
      <div className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-[13rem_minmax(17rem,0.8fr)_minmax(0,1.25fr)]">
        <nav aria-label="Calculations">
          <div className="lg:hidden">
            <Choice
              label="Calculation"
              disabled={!ready}
              value={calculation.id}
              change={(id) => choose(calculationById(id) ?? calculation)}
              options={calculations.map(({ id, title }) => ({ value: id, label: title }))}
            />
          </div>
          <ul className="hidden lg:block">
            {calculations.map((one) => {
              const here = one.id === calculation.id;
              return (
                <li key={one.id}>
                  <a
                    id={`calculation-${one.id}`}
                    href={`/bench?${calculationKey}=${one.id}`}
                    aria-current={here ? 'page' : undefined}
                    className={`flex min-h-11 items-center border-l-4 py-1 pl-3 leading-tight ${here ? 'border-action font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
                    onClick={(event) => {
                      if (event.metaKey || event.ctrlKey || event.shiftKey) return;
                      event.preventDefault();
                      choose(one);
                    }}
                  >
                    {one.title}
                  </a>
                </li>
              );
            })}
          </ul>
        </nav>
        <section aria-label="Questions" data-questions>
          <h1 className={heading}>{calculation.title}</h1>
          <p className="mb-4 mt-1 text-quiet">{calculation.about}</p>
          {/* Nothing can be typed before it would be heard: a figure in a field that no answer belongs to misleads. */}
          <fieldset disabled={!ready} className="space-y-3.5" key={calculation.id}>
            <legend className="sr-only">Figures</legend>
            {calculation.parameters
              .filter((parameter) => isAsked(calculation, parameter, answers))
              .map((parameter) => (
                <Question
                  key={parameter.id}
                  parameter={parameter}
                  value={answers[parameter.id] ?? ''}
                  answer={answer}
                  problem={problems.find(({ field }) => field === parameter.id)}
                />
              ))}
          </fieldset>
          <div className="mt-5 flex flex-wrap gap-2">
            <Button tone="quiet" onClick={copy}>
              {copied ? 'Address copied' : 'Copy the address'}
            </Button>
            <Button tone="quiet" onClick={() => show(atStart(calculation), 'push')}>
              Start over
            </Button>
          </div>
        </section>
        <section aria-label="Answer" className="min-w-0">
          <p role="status" className="sr-only">
            {worked.ok ? mainLine(worked.value) : problems.map(({ message }) => message).join(' ')}
          </p>
          <Answer key={calculation.id} calculation={calculation} worked={worked} />
          {calculation.plan !== undefined && <Chances calculation={calculation} answers={answers} />}
        </section>
      </div>
      {worked.ok && (
        <div className="fixed inset-x-0 bottom-0 border-t border-line bg-surface px-4 py-2.5 lg:hidden">
          <p className="figures text-lg font-semibold">{mainLine(worked.value)}</p>
          {worked.value.said
            .filter(({ tone }) => tone === 'stop')
            .map(({ text }) => (
              <p key={text} className="text-sm font-medium leading-snug text-stop">
                {text}
              </p>
            ))}
        </div>
      )}
      {help && (
        <SheetDialog title="Keys on Bench" close={() => setHelp(false)}>
          <dl className="grid grid-cols-[4rem_1fr] gap-y-2">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="figures font-semibold">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </SheetDialog>
      )}
    </div>
  );
}

/** How likely a leak passes such a hold, by its size; and the hold of another time over it. */
function Chances({ calculation, answers }: Open) {
  const plan = useMemo(() => planOf(calculation, answers), [calculation, answers]);
  const others = useMemo(
    () =>
      [4, 2, 0.5].flatMap((times) => {
        const minutes = timesAs(answers.time ?? '', times);
        const other = minutes === undefined ? undefined : planOf(calculation, { ...answers, time: minutes });
        return other === undefined ? [] : [{ label: `A hold of ${minutes}`, plan: other }];
      }),
    [calculation, answers],
  );
  return (
    <div className="mt-4 border-t border-line pt-2">
      <h2 className="font-medium">The chance of a pass</h2>
      {plan === undefined ? (
        <p className="text-sm text-quiet">It is worked out for holds of three minutes and more, once the figures above stand.</p>
      ) : (
        <DetectionCurve key={plan.hash} plan={plan} label="Your hold" others={others} />
      )}
    </div>
  );
}

const timesAs = (typed: string, times: number): string | undefined => {
  const time = parseQuantity(typed, 'time', 'min');
  return time.ok ? `${Number(((toSi(toNumber(time.value.value), time.value.unit) / 60) * times).toFixed(2))} min` : undefined;
};

const keys = [
  ['N, B', 'The next calculation, the one before'],
  ['E', 'Edit the first figure; Tab goes on, Esc leaves'],
  ['C', 'Copy the address, with all that was typed'],
  ['R', 'Start over; the browser’s Back brings it again'],
] as const;
