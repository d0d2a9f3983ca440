import { useEffect, useMemo, useRef } from 'react';
import type { HoldPhase } from '@/core/course';
import { timeText } from '@/core/limits';
import { endFor, type GaugeLog, type LogWindow, rowsKeptOf } from '@/core/record';
import { Button } from '@/ui/button';
import { Notice } from '@/ui/notice';
import { LogPreview } from './log-preview';

const breakWords = {
  gap: 'a gap of',
  'jump back': 'the clock ran back by',
  'hour back': 'the clock was put back by',
  'hour forward': 'the clock was put forward by',
} as const;

/** What the whole file holds, what is wrong with it, and the part that would be taken. */
export function Found({
  log,
  hold,
  window,
  choose,
  next,
}: {
  readonly log: GaugeLog;
  readonly hold: HoldPhase;
  readonly window: LogWindow | undefined;
  readonly choose: (window: LogWindow | undefined) => void;
  /** The next part from a row on that could be the hold. */
  readonly next: (from: number) => LogWindow | undefined;
}) {
  const when = (row: number) => new Date(log.times[row]).toLocaleString([], { dateStyle: 'short', timeStyle: 'medium' });
  const rows = log.times.length;
  // What was found stands below what was asked; on a low screen it would lie out of sight.
  const found = useRef<HTMLElement>(null);
  useEffect(() => {
    found.current?.scrollIntoView({ block: 'nearest' });
  }, []);
  const jumped = useMemo(() => log.breaks.some(({ kind }) => kind === 'jump back'), [log]);
  const every = window === undefined ? 1 : rowsKeptOf(window);
  const move = (by: number) => {
    const start = Math.min(rows - 1, Math.max(0, (window?.start ?? 0) + by));
    const end = endFor(log, hold, start);
    if (end !== undefined) choose({ start, end });
  };
  return (
    <section ref={found} aria-label="What the file holds" className="space-y-2">
      <p>
        <b className="figures">{rows.toLocaleString()}</b> readings, one about every{' '}
        {log.stepMs < 1000 ? `${log.stepMs} ms` : timeText(log.stepMs / 1000)}, from {when(0)} to {when(rows - 1)}.
      </p>
      {log.unread > 0 && (
        <p className="text-sm font-medium text-caution">
          {log.unread} line{log.unread === 1 ? '' : 's'} without a time or a figure left out: line {log.firstUnread.join(', ')}
          {log.unread > log.firstUnread.length && ' and more'}.
        </p>
      )}
      {log.breaks.length > 0 && (
        <ul className="text-sm">
          {log.breaks.slice(0, 5).map(({ kind, row, milliseconds }) => (
            <li key={row} className={kind === 'jump back' ? 'font-medium text-stop' : 'text-caution'}>
              After {when(row)}: {breakWords[kind]} {timeText(Math.round(Math.abs(milliseconds) / 1000))}.
            </li>
          ))}
          {log.breaks.length > 5 && <li className="text-caution">And {log.breaks.length - 5} more.</li>}
        </ul>
      )}
      {jumped && <p className="text-sm">No hold is read across a clock that ran back.</p>}
      <LogPreview log={log} {...(window === undefined ? {} : { window })} />
      {window === undefined ? (
        <Notice tone="caution">
          No reading from {hold.band.low} to {hold.band.high} is followed by {timeText(hold.seconds)} of log. It cannot be this hold.
        </Notice>
      ) : (
        <div className="flex flex-wrap items-center gap-2">
          <p className="figures min-w-48 flex-1 text-sm">
            {when(window.start)} to {when(window.end)}
          </p>
          {every > 1 && <p className="w-full text-sm">Of every {every} readings the one furthest from the start is kept.</p>}
          {[-60, -1, 1, 60].map((by) => (
            <Button
              key={by}
              tone="quiet"
              className="figures px-2 text-sm"
              onClick={() => move(by)}
              aria-label={`Start ${Math.abs(by)} reading${Math.abs(by) === 1 ? '' : 's'} ${by < 0 ? 'earlier' : 'later'}`}
            >
              {by > 0 ? `+${by}` : `−${-by}`}
            </Button>
          ))}
          <Button tone="quiet" className="px-2 text-sm" onClick={() => choose(next(window.start + 1) ?? window)}>
            Next in the band
          </Button>
        </div>
      )}
    </section>
  );
}
