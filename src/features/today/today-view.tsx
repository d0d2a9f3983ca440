'use client';

import { Fragment, type ReactNode } from 'react';
import type { TestVerdict } from '@/core/course';
import type { KnownInstrument, Thing } from '@/core/register';
import { useToday } from '@/device/use-today';
import { Page } from '@/features/frame/page';
import { To } from '@/features/frame/source';
import { dueInDays } from '@/features/instruments/instruments-view';
import { buttonLook } from '@/ui/button';
import { link, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Row, Rows } from '@/ui/list-row';
import { Simulated } from '@/ui/notice';
import { VerdictMark } from '@/ui/verdict-mark';
import { dayText, weekday } from '@/ui/when';

/** A test as lists show it. */
export interface ListedTest {
  readonly test: string;
  readonly run?: string;
  readonly system: string;
  readonly site: string;
  readonly verdict: TestVerdict;
  readonly simulated: boolean;
  readonly at: number;
  readonly certificate?: string;
  readonly alarm?: string;
}

export interface TodayData {
  readonly visits: readonly {
    readonly visit: Thing<'visit'>;
    readonly site: string;
    readonly people: readonly string[];
    /** Names of the systems that are tested, in the order of its tests. */
    readonly systems: readonly string[];
  }[];
  /** Guard gauges that give alarm. */
  readonly fallen: readonly ListedTest[];
  readonly unsealed: readonly ListedTest[];
  readonly recent: readonly ListedTest[];
  /** Systems never tested, then those tested longest ago. */
  readonly next: readonly { readonly id: string; readonly name: string; readonly site: string; readonly last?: number }[];
  readonly instruments: readonly KnownInstrument[];
  /** Sites with something that two people wrote, and somebody has to choose. */
  readonly clashes: readonly { readonly site: string; readonly name: string; readonly count: number }[];
  /** What devices sent and the server could not read. */
  readonly unread: readonly { readonly id: string; readonly why: string; readonly at: number }[];
  readonly maySeal: boolean;
}

/** Holds running now, what is next, what needs a hand, and the recent verdicts. */
export function TodayView({
  data,
  running,
  followUps,
  signal,
}: {
  readonly data: TodayData;
  readonly running: ReactNode;
  /** What is still to be done after tests. */
  readonly followUps?: ReactNode;
  readonly signal?: ReactNode;
}) {
  const { visits, recent } = data;
  const on = useToday();
  return (
    <Page title="Today" signal={signal}>
      <div className="space-y-8">
        {running}
        {visits.length > 0 && (
          <section aria-labelledby="visits">
            <h2 id="visits" className={subheading}>
              Visits
            </h2>
            <Rows>
              {visits.map(({ visit, site, people, systems }) => (
                <Fragment key={visit.id}>
                  <Row
                    title={
                      <>
                        <b>{visit.on === on ? 'Today' : weekday(visit.on)}</b> {visit.begins} <b>{site}</b>
                      </>
                    }
                    more={`${people.length === 0 ? 'whoever is free' : people.join(', ')} · ${visit.tests.length === 1 ? 'one test' : `${visit.tests.length} tests`}`}
                  >
                    <To place={{ at: 'visit', visit: visit.id }} className={buttonLook('quiet')}>
                      Open
                    </To>
                  </Row>
                  {visit.on === on &&
                    visit.tests.map(({ system, procedure }, index) => (
                      <Row key={system + procedure} title={<span className="pl-4">{systems[index]}</span>}>
                        <To place={{ at: 'plan', system, procedure }} className={buttonLook('quiet')} label={`Plan it: ${systems[index]}`}>
                          Plan it
                        </To>
                      </Row>
                    ))}
                </Fragment>
              ))}
            </Rows>
          </section>
        )}
        <Hand data={data} />
        {followUps}
        <Next data={data} />
        <section aria-labelledby="recent">
          <h2 id="recent" className={subheading}>
            Recent verdicts
          </h2>
          {recent.length === 0 ? (
            <p className="mt-1 text-quiet">None yet: a test shows here once it is over.</p>
          ) : (
            <ul className="mt-2 divide-y divide-line border-y border-line">
              {recent.map((one) => (
                <li key={one.test}>
                  <To
                    place={{ at: 'verdict', run: one.run ?? '' }}
                    className="grid min-h-14 grid-cols-[1fr_auto] items-center gap-x-4 py-2 hover:bg-sunken sm:grid-cols-[15rem_1fr_auto]"
                  >
                    <VerdictMark verdict={one.verdict} />
                    <span className="max-sm:col-span-2 max-sm:row-start-2">
                      <b>{one.system}</b> <span className="text-quiet">{one.site}</span> {one.simulated && <Simulated />}
                    </span>
                    <span className="text-right text-sm text-quiet">
                      {dayText(one.at)}
                      <span className="figures block">{one.certificate ?? 'not sealed'}</span>
                    </span>
                  </To>
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
    </Page>
  );
}

function Hand({ data: { fallen, unsealed, instruments, clashes, unread, recent, maySeal } }: { readonly data: TodayData }) {
  const on = useToday();
  const due = instruments
    .map((one) => ({ one, days: dueInDays(one, on) }))
    .filter(({ one, days }) => on !== undefined && one.calibrationNeeded && !one.putAway && (days ?? 0) <= 30);
  const nothing = unsealed.length + due.length + unread.length + fallen.length + clashes.length === 0;
  return (
    <section aria-labelledby="hand">
      <h2 id="hand" className={subheading}>
        Needs a hand
      </h2>
      {nothing && (
        <p className="mt-1 text-quiet">
          {recent.length === 0 ? 'Nothing waits.' : 'Nothing waits: every finished test is sealed and every gauge is in date.'}
        </p>
      )}
      {!nothing && (
        <Rows>
          {fallen.map(({ test, site, system, run, alarm }) => (
            <Row
              key={test}
              title={
                <>
                  <b className="text-stop">Guard gauge has fallen:</b> <b>{system}</b> <span className="text-quiet">{site}</span>
                </>
              }
              more={alarm}
            >
              <To place={{ at: 'verdict', run: run ?? '' }} className={link}>
                Look at it
              </To>
            </Row>
          ))}
          {clashes.map(({ site, name, count }) => (
            <Row
              key={site}
              title={
                <>
                  <b className="text-caution">Changed twice:</b> <b>{name}</b>
                </>
              }
              more={`${count === 1 ? 'one thing stands' : `${count} things stand`} in two versions; whoever knows chooses.`}
            >
              <To place={{ at: 'site', site }} className={link}>
                Choose
              </To>
            </Row>
          ))}
          {unsealed.map(({ test, site, system, verdict }) => (
            <Row
              key={test}
              title={
                <>
                  Not sealed yet: <b>{system}</b> <span className="text-quiet">{site}</span> <VerdictMark verdict={verdict} size={16} />
                </>
              }
            >
              <a className={link} href={`/certificates/test/${test}`}>
                {maySeal ? 'Sign and seal' : 'Look at it'}
              </a>
            </Row>
          ))}
          {due.map(({ one, days }) => (
            <Row
              key={one.id}
              title={
                <>
                  {days === undefined ? (
                    <b className="text-stop">No calibration on file:</b>
                  ) : days < 0 ? (
                    <b className="text-stop">Calibration overdue by {-days} days:</b>
                  ) : (
                    <b className="text-caution">Calibration due in {days} days:</b>
                  )}{' '}
                  {one.name} <span className="figures text-quiet">{one.serial}</span>
                </>
              }
            >
              <To className={link} place={{ at: 'instruments' }}>
                Instruments
              </To>
            </Row>
          ))}
          {unread.length > 0 && (
            <li className="py-1">
              <Disclosure
                look=""
                title={
                  <>
                    <b className="text-caution">
                      {unread.length} thing{unread.length === 1 ? '' : 's'} that a device sent could not be read:
                    </b>{' '}
                    kept aside, not judged, and still on that device
                  </>
                }
              >
                <ul className="space-y-1 text-sm text-quiet">
                  {unread.map(({ id, why, at }) => (
                    <li key={id}>
                      {dayText(at)}: {why}
                    </li>
                  ))}
                </ul>
              </Disclosure>
            </li>
          )}
        </Rows>
      )}
    </section>
  );
}

function Next({ data: { next, instruments } }: { readonly data: TodayData }) {
  return (
    <section aria-labelledby="next">
      <h2 id="next" className={subheading}>
        Next
      </h2>
      {next.length === 0 ? (
        <p className="mt-1 text-quiet">
          No systems yet.{' '}
          <To className={link} place={{ at: 'sites' }}>
            Add a site and its systems
          </To>
          {instruments.length === 0 && (
            <>
              , then{' '}
              <To className={link} place={{ at: 'instruments' }}>
                your gauges
              </To>
            </>
          )}
          : their tests are planned from here.
        </p>
      ) : (
        <>
          <p className="text-sm text-quiet">Systems never tested, then those tested longest ago.</p>
          <Rows>
            {next.map(({ id, name, site, last }) => (
              <Row
                key={id}
                title={
                  <>
                    <b>{name}</b> <span className="text-quiet">{site}</span>
                  </>
                }
                more={last === undefined ? 'never tested here' : `last tested ${dayText(last)}`}
              >
                <To className={buttonLook('quiet')} place={{ at: 'plan', system: id }}>
                  Plan a test
                </To>
              </Row>
            ))}
          </Rows>
        </>
      )}
    </section>
  );
}
