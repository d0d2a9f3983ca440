import Link from 'next/link';
import { guardLooks } from '@/core/judging';
import type { KeptInstrument } from '@/server/instruments';
import type { Site, System } from '@/server/sites';
import type { LoadedTest } from '@/server/tests';
import { heading, link, quietButton, subheading } from '@/ui/classes';
import { Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText } from '@/ui/when';
import { DayGlance } from './day-glance';
import { RunningHolds } from './running-holds';

/** Holds running now, what is next, what needs a hand, and the recent verdicts. */
export function TodayScreen({
  tests,
  instruments,
  sites,
  unread,
}: {
  readonly tests: readonly LoadedTest[];
  readonly instruments: readonly KeptInstrument[];
  readonly sites: readonly (Site & { readonly systems: readonly System[] })[];
  /** What devices sent and the server could not read. */
  readonly unread: readonly { readonly id: string; readonly why: string; readonly receivedAt: Date }[];
}) {
  const unsealed = tests.filter(
    ({ certificates, attempts }) =>
      certificates.length === 0 && attempts.at(-1) !== undefined && attempts.at(-1)?.judgement.verdict !== 'in progress',
  );
  const due = instruments.filter(({ dueInDays }) => dueInDays !== undefined && dueInDays <= 30);
  const fallen = tests.flatMap(({ test, site, system, attempts, watch }) => {
    const last = attempts.at(-1);
    const state = last === undefined ? undefined : guardLooks(last.plan, [...last.events, ...watch]).at(-1)?.state;
    return state?.alarm === true ? [{ test, site, system, run: last?.id, sentence: state.sentence }] : [];
  });
  const recent = tests
    .filter(({ attempts }) => attempts.at(-1) !== undefined && attempts.at(-1)?.judgement.verdict !== 'in progress')
    .slice(0, 8);
  const tested = new Map<string, number>();
  for (const { test } of tests) tested.set(test.systemId, Math.max(tested.get(test.systemId) ?? 0, test.createdAt.getTime()));
  const next = sites
    .flatMap(({ name, systems }) => systems.map((system) => ({ site: name, system, last: tested.get(system.id) })))
    .sort((a, b) => (a.last ?? 0) - (b.last ?? 0))
    .slice(0, 6);
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
          <p className="mt-1 text-quiet">Nothing waits: every finished test is sealed and every gauge is in date.</p>
        ) : (
          <ul className="mt-2 divide-y divide-line border-y border-line">
            {fallen.map(({ test, site, system, run, sentence }) => (
              <li key={test.id} className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
                <span className="min-w-0 flex-1">
                  <b className="text-stop">Guard gauge has fallen:</b> <b>{system.name}</b> <span className="text-quiet">{site.name}</span>
                  <span className="block text-sm">{sentence}</span>
                </span>
                <a className={link} href={`/field?run=${run}&view=verdict`}>
                  Look at it
                </a>
              </li>
            ))}
            {unsealed.map(({ test, site, system, attempts }) => (
              <li key={test.id} className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
                <span>
                  Not sealed yet: <b>{system.name}</b> <span className="text-quiet">{site.name}</span>{' '}
                  <VerdictMark verdict={attempts.at(-1)?.judgement.verdict ?? 'in progress'} size={16} />
                </span>
                <Link className={link} href={`/certificates/test/${test.id}`}>
                  Sign and seal
                </Link>
              </li>
            ))}
            {due.map(({ instrument, dueInDays = 0 }) => (
              <li key={instrument.id} className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
                <span>
                  {dueInDays < 0 ? (
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
        <p className="text-sm text-quiet">Systems never tested, then those tested longest ago.</p>
        <ul className="mt-2 divide-y divide-line border-y border-line">
          {next.map(({ site, system, last }) => (
            <li key={system.id} className="flex min-h-14 items-center justify-between gap-4 py-1.5">
              <span className="min-w-0">
                <b>{system.name}</b> <span className="text-quiet">{site}</span>
                <span className="block text-sm text-quiet">
                  {last === undefined ? 'never tested here' : `last tested ${dayText(last)}`}
                </span>
              </span>
              <a className={`${quietButton} shrink-0`} href={`/field?system=${system.id}`}>
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
        <ul className="mt-2 divide-y divide-line border-y border-line">
          {recent.map(({ test, site, system, attempts, certificates }) => (
            <li key={test.id}>
              <a
                href={`/field?run=${attempts.at(-1)?.id}&view=verdict`}
                className="grid min-h-14 grid-cols-[1fr_auto] items-center gap-x-4 py-2 hover:bg-sunken sm:grid-cols-[15rem_1fr_auto]"
              >
                <VerdictMark verdict={attempts.at(-1)?.judgement.verdict ?? 'in progress'} />
                <span className="max-sm:col-span-2 max-sm:row-start-2">
                  <b>{system.name}</b> <span className="text-quiet">{site.name}</span>{' '}
                  {attempts.at(-1)?.judgement.simulated && <Simulated />}
                </span>
                <span className="text-right text-sm text-quiet">
                  {dayText(test.createdAt)}
                  <span className="figures block">{certificates.at(-1)?.number ?? 'not sealed'}</span>
                </span>
              </a>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
