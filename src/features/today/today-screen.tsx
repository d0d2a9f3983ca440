import Link from 'next/link';
import type { KeptInstrument } from '@/server/instruments';
import type { Listed } from '@/server/standing';
import { heading, link, quietButton, subheading } from '@/ui/classes';
import { Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText } from '@/ui/when';
import { DayGlance } from './day-glance';
import { RunningHolds } from './running-holds';

/** Holds running now, what is next, what needs a hand, and the recent verdicts. */
export function TodayScreen({
  unsealed,
  fallen,
  recent,
  next,
  instruments,
  sites,
  unread,
  maySeal,
}: {
  readonly unsealed: readonly Listed[];
  /** Their guard gauges give alarm. */
  readonly fallen: readonly Listed[];
  readonly recent: readonly Listed[];
  /** Systems never tested, then those tested longest ago. */
  readonly next: readonly { readonly id: string; readonly name: string; readonly site: string; readonly last?: Date }[];
  readonly instruments: readonly KeptInstrument[];
  readonly sites: readonly { readonly id: string; readonly name: string }[];
  readonly maySeal: boolean;
  /** What devices sent and the server could not read. */
  readonly unread: readonly { readonly id: string; readonly why: string; readonly receivedAt: Date }[];
}) {
  const due = instruments.filter(({ instrument, dueInDays }) => instrument.calibration.needed && (dueInDays ?? 0) <= 30);
  return (
    <div className="space-y-9">
      <h1 className={heading}>Today</h1>
      <RunningHolds />
      <DayGlance sites={sites} />
      <section aria-labelledby="hand">
        <h2 id="hand" className={subheading}>
          Needs a hand
        </h2>
        {unsealed.length + due.length + unread.length + fallen.length === 0 ? (
          <p className="mt-1 text-quiet">
            {recent.length === 0 ? 'Nothing waits.' : 'Nothing waits: every finished test is sealed and every gauge is in date.'}
          </p>
        ) : (
          <ul className="mt-2 divide-y divide-line border-y border-line">
            {fallen.map(({ testId, site, system, runId, alarm }) => (
              <li key={testId} className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
                <span className="min-w-0 flex-1">
                  <b className="text-stop">Guard gauge has fallen:</b> <b>{system}</b> <span className="text-quiet">{site}</span>
                  <span className="block text-sm">{alarm}</span>
                </span>
                <a className={link} href={`/field?run=${runId}&view=verdict`}>
                  Look at it
                </a>
              </li>
            ))}
            {unsealed.map(({ testId, site, system, verdict }) => (
              <li key={testId} className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
                <span>
                  Not sealed yet: <b>{system}</b> <span className="text-quiet">{site}</span> <VerdictMark verdict={verdict} size={16} />
                </span>
                <Link className={link} href={`/certificates/test/${testId}`}>
                  {maySeal ? 'Sign and seal' : 'Look at it'}
                </Link>
              </li>
            ))}
            {due.map(({ instrument, dueInDays }) => (
              <li key={instrument.id} className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
                <span>
                  {dueInDays === undefined ? (
                    <b className="text-stop">No calibration on file:</b>
                  ) : dueInDays < 0 ? (
                    <b className="text-stop">Calibration overdue by {-dueInDays} days:</b>
                  ) : (
                    <b className="text-caution">Calibration due in {dueInDays} days:</b>
                  )}{' '}
                  {instrument.name} <span className="figures text-quiet">{instrument.serial}</span>
                </span>
                <Link className={link} href="/instruments">
                  Instruments
                </Link>
              </li>
            ))}
            {unread.length > 0 && (
              <li className="py-3">
                <details>
                  <summary>
                    <b className="text-caution">
                      {unread.length} thing{unread.length === 1 ? '' : 's'} that a device sent could not be read:
                    </b>{' '}
                    kept aside, not judged, and still on that device
                  </summary>
                  <ul className="mt-1 space-y-1 text-sm text-quiet">
                    {unread.map(({ id, why, receivedAt }) => (
                      <li key={id}>
                        {dayText(receivedAt)}: {why}
                      </li>
                    ))}
                  </ul>
                </details>
              </li>
            )}
          </ul>
        )}
      </section>
      <section aria-labelledby="next">
        <h2 id="next" className={subheading}>
          Next
        </h2>
        {next.length === 0 ? (
          <p className="mt-1 text-quiet">
            No systems yet.{' '}
            <Link className={link} href="/sites">
              Add a site and its systems
            </Link>
            {instruments.length === 0 && (
              <>
                , then{' '}
                <Link className={link} href="/instruments">
                  your gauges
                </Link>
              </>
            )}
            : their tests are planned from here.
          </p>
        ) : (
          <p className="text-sm text-quiet">Systems never tested, then those tested longest ago.</p>
        )}
        <ul className={next.length === 0 ? 'hidden' : 'mt-2 divide-y divide-line border-y border-line'}>
          {next.map(({ id, name, site, last }) => (
            <li key={id} className="flex min-h-14 items-center justify-between gap-4 py-1.5">
              <span className="min-w-0">
                <b>{name}</b> <span className="text-quiet">{site}</span>
                <span className="block text-sm text-quiet">
                  {last === undefined ? 'never tested here' : `last tested ${dayText(last)}`}
                </span>
              </span>
              <a className={`${quietButton} shrink-0`} href={`/field?system=${id}`}>
                Plan a test
              </a>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="recent">
        <h2 id="recent" className={subheading}>
          Recent verdicts
        </h2>
        {recent.length === 0 && <p className="mt-1 text-quiet">None yet: a test shows here once it is over.</p>}
        <ul className={recent.length === 0 ? 'hidden' : 'mt-2 divide-y divide-line border-y border-line'}>
          {recent.map(({ testId, runId, site, system, verdict, simulated, createdAt, certificate }) => (
            <li key={testId}>
              <a
                href={`/field?run=${runId}&view=verdict`}
                className="grid min-h-14 grid-cols-[1fr_auto] items-center gap-x-4 py-2 hover:bg-sunken sm:grid-cols-[15rem_1fr_auto]"
              >
                <VerdictMark verdict={verdict} />
                <span className="max-sm:col-span-2 max-sm:row-start-2">
                  <b>{system}</b> <span className="text-quiet">{site}</span> {simulated && <Simulated />}
                </span>
                <span className="text-right text-sm text-quiet">
                  {dayText(createdAt)}
                  <span className="figures block">{certificate ?? 'not sealed'}</span>
                </span>
              </a>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
