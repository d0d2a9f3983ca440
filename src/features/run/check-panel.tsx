'use client';

import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { answersTo, type CheckItem, type CheckPhase } from '@/core/course';
import { type CheckState, itemsOf, type PhaseJudgement } from '@/core/judging';
import type { Gauge } from '@/core/sizing';
import { now } from '@/device/clock';
import { countdown, useNow } from '@/device/use-now';
import { Button } from '@/ui/button';
import { button, input, quietButton } from '@/ui/classes';

const GuardForm = dynamic(() => import('./guard-form').then((module) => module.GuardForm), { ssr: false });

const words: Record<CheckState, string> = {
  done: 'Done',
  'not-applicable': 'Does not apply',
  proved: 'Proved',
  plugged: 'Plugged or capped',
  unproved: 'Not proved',
  undone: '',
};

const wordOf = ({ plugged }: CheckItem, state: CheckState): string => (state === 'plugged' ? (plugged ?? words.plugged) : words[state]);

/** A checklist that gates: what does not apply needs a reason, what must be written down its text. */
export function CheckPanel({
  run,
  phase,
  state,
  mayMove,
  gauge,
  answer,
  readGuard,
}: {
  readonly run: string;
  readonly phase: CheckPhase;
  readonly state: PhaseJudgement;
  readonly mayMove: boolean;
  readonly gauge: Gauge;
  readonly answer: (item: CheckItem, state: CheckState, text?: string) => void;
  /** Writes the guard gauge down and ticks its step off. */
  readonly readGuard: (item: CheckItem, value: string, celsius: string | undefined) => Promise<unknown>;
}) {
  const items = itemsOf(state);
  const open = phase.items.find(({ id }) => items.every((item) => item.id !== id));
  return (
    <ol className="divide-y divide-line border-y border-line" aria-label={phase.title}>
      {phase.items.map((item, index) => (
        <Item
          key={item.id}
          item={item}
          number={index + 1}
          next={item.id === open?.id}
          answered={items.find(({ id }) => id === item.id)}
          mayMove={mayMove}
          pauseKey={`${run} ${phase.id} ${state.round} ${item.id}`}
          answer={answer}
          {...(item.guard === true ? { guard: { gauge, read: (value, celsius) => readGuard(item, value, celsius) } } : {})}
        />
      ))}
    </ol>
  );
}

/**
 * The pause at a step of a rise: it begins when the pressure is there, and until it is over the step is not done. Begun, it is
 * remembered through a reload; going on without it is said.
 */
function usePause(key: string, seconds: number | undefined) {
  const kept = `vast-stone-pause-${key}`;
  const [since, setSince] = useState<number | undefined>(() => Number(sessionStorage.getItem(kept) ?? '') || undefined);
  const time = useNow(250);
  const left = seconds === undefined || since === undefined ? undefined : since + seconds * 1000 - time;
  const over = seconds === undefined || (left !== undefined && left <= 0);
  useEffect(() => {
    if (over && seconds !== undefined) navigator.vibrate?.(200);
  }, [over, seconds]);
  const begin = () => {
    const at = now();
    sessionStorage.setItem(kept, String(at));
    setSince(at);
  };
  return { begin, left, over, begun: since !== undefined };
}

function Item({
  item,
  number,
  next,
  answered,
  mayMove,
  pauseKey,
  answer,
  guard,
}: {
  readonly item: CheckItem;
  readonly number: number;
  readonly next: boolean;
  readonly answered?: { readonly state: CheckState; readonly text?: string };
  readonly mayMove: boolean;
  /** Names the step in this run. */
  readonly pauseKey: string;
  readonly answer: (item: CheckItem, state: CheckState, text?: string) => void;
  /** This step reads the guard gauge. */
  readonly guard?: { readonly gauge: Gauge; readonly read: (value: string, celsius: string | undefined) => Promise<unknown> };
}) {
  const [asking, setAsking] = useState(false);
  const [text, setText] = useState('');
  const pause = usePause(pauseKey, item.pauseSeconds);
  if (answered !== undefined)
    return (
      <li className="flex items-start justify-between gap-3 py-2">
        <span className="text-quiet">
          {item.text}
          {answered.text !== undefined && <span className="block text-sm">“{answered.text}”</span>}
        </span>
        <span className="flex shrink-0 items-center gap-2">
          <b className={answered.state === 'unproved' ? 'text-stop' : 'text-action'}>{wordOf(item, answered.state)}</b>
          {mayMove && (
            <Button
              tone="bare"
              size="tall"
              className="px-1 text-sm"
              onClick={() => answer(item, 'undone')}
              aria-label={`Undo: ${item.text}`}
            >
              Undo
            </Button>
          )}
        </span>
      </li>
    );
  if (guard !== undefined)
    return (
      <li className={`py-2 ${next ? 'border-l-4 border-action pl-3' : 'pl-1'}`}>
        <p className={next ? 'font-medium' : ''}>
          <span className="figures mr-2 text-quiet">{number}</span>
          {item.text}
        </p>
        <GuardForm gauge={guard.gauge} save={guard.read} label="Done" disabled={!mayMove} />
      </li>
    );
  const wanted = item.write !== undefined || asking;
  const simple = item.boundary === undefined && !wanted;
  const main = next ? button : quietButton;
  return (
    <li className={`py-2 ${next ? 'border-l-4 border-action pl-3' : 'pl-1'}`}>
      <div className={simple ? 'flex items-center justify-between gap-3' : ''}>
        <div>
          <p className={next ? 'font-medium' : ''}>
            <span className="figures mr-2 text-quiet">{number}</span>
            {item.text}
          </p>
          {item.pauseSeconds !== undefined && pause.begun && pause.left !== undefined && (
            <p role="timer" aria-live="off" className={`figures text-lg font-semibold ${pause.over ? 'text-action' : ''}`}>
              {pause.over ? 'Pause over' : countdown(pause.left)}
            </p>
          )}
          {next && item.pauseSeconds !== undefined && !pause.over && (
            <Button tone="bare" size="tall" disabled={!mayMove} onClick={() => answer(item, 'done', 'without the pause')}>
              Go on without the pause
            </Button>
          )}
        </div>
        {wanted && (
          <label className="mt-2 block text-sm">
            {asking ? 'Why does it not apply?' : item.write}
            <input className={`${input} mt-1`} value={text} onChange={(event) => setText(event.target.value)} />
          </label>
        )}
        <div className={`flex flex-wrap gap-2 ${simple ? 'shrink-0 flex-col' : 'mt-2'}`}>
          {asking ? (
            <>
              <Button size="tall" disabled={!mayMove || text.trim() === ''} onClick={() => answer(item, 'not-applicable', text.trim())}>
                Does not apply
              </Button>
              <Button tone="quiet" size="tall" onClick={() => setAsking(false)}>
                Back
              </Button>
            </>
          ) : (
            <>
              {!pause.over && !pause.begun && (
                <Button size="tall" disabled={!mayMove} onClick={pause.begin} aria-label={`It is there: ${item.text}`}>
                  It is there
                </Button>
              )}
              {answersTo(item).map((state) =>
                pause.over || pause.begun ? (
                  <button
                    key={state}
                    type="button"
                    className={`${state === 'unproved' ? quietButton : main} min-h-12`}
                    disabled={!mayMove || !pause.over || (item.write !== undefined && text.trim() === '')}
                    onClick={() => answer(item, state, text.trim() === '' ? undefined : text.trim())}
                    aria-label={`${wordOf(item, state)}: ${item.text}`}
                  >
                    {wordOf(item, state)}
                    {next && state !== 'unproved' && state !== 'proved' && <kbd className="text-xs opacity-80 @max-5xl:hidden">A</kbd>}
                  </button>
                ) : null,
              )}
              {item.mayNotApply && (
                <button
                  type="button"
                  className={simple ? 'min-h-12 px-1 text-sm underline' : `${quietButton} min-h-12`}
                  disabled={!mayMove}
                  onClick={() => setAsking(true)}
                  aria-label={`Does not apply: ${item.text}`}
                >
                  Does not apply…
                </button>
              )}
            </>
          )}
        </div>
      </div>
    </li>
  );
}
