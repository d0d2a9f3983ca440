'use client';

import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { alarmsOf, type Day, sideBySide, withoutSupply } from '@/core/planning';
import { proceduresFor } from '@/core/procedures';
import { changing, type Said, type Thing } from '@/core/register';
import { now } from '@/device/clock';
import type { Ground, GroundSystem } from '@/device/ground';
import { Page } from '@/features/frame/page';
import { To, useSource } from '@/features/frame/source';
import { useChanges } from '@/features/things/thing-dialog';
import { Button, buttonLook } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input, link, subheading } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';
import { Notice } from '@/ui/notice';
import { ShareText } from '@/ui/share-text';
import { useButtonKeys } from '@/ui/use-shortcuts';
import { VerdictMark } from '@/ui/verdict-mark';
import { hourText, weekday } from '@/ui/when';
import { DayChart } from './day-chart';
import { type DayTests, dayTests, usualProcedure } from './day-plan';

type Tests = Said<'visit'>['tests'];
const idOf = ({ system, procedure }: Tests[number]) => `${system} ${procedure}`;

/** A visit: which tests, in which order, and when hands are busy, what waits, and when each alarm sounds. */
export function VisitView({
  visit,
  ground,
  people,
  signal,
}: {
  readonly visit: Thing<'visit'>;
  readonly ground: Ground;
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly signal?: ReactNode;
}) {
  useButtonKeys();
  const { change, go, hrefOf } = useSource();
  const keep = useChanges();
  const [fault, setFault] = useState<string>();
  const [opened] = useState(() => Math.ceil(now() / 300_000) * 300_000);
  // What is pressed shows at once: a list that moves only when it was written moves under the next press.
  const [draft, setDraft] = useState<Partial<Said<'visit'>>>();
  const shown = { ...visit, ...draft };
  const { tests: entries, ordered } = shown;
  const startAt = shown.begins === '' ? opened : momentOf(shown.on, shown.begins);
  const { systems } = ground;
  const site = systems[0]?.site;
  const tests = useMemo(() => dayTests(ground, entries, shown.on), [ground, entries, shown.on]);
  const doneOf = ({ system, procedure }: Tests[number]) =>
    ground.earlier.find((one) => one.systemId === system && one.procedure === procedure && one.on === shown.on);
  const papers = entries.flatMap((entry) => {
    const done = doneOf(entry);
    return done === undefined || done.verdict === 'in progress' ? [] : [done.test];
  });
  const hands = Math.max(1, shown.people.length);
  const laid = useMemo(
    () => sideBySide(tests, { people: hands, ...(ordered ? { order: tests.map(({ id }) => id) } : {}) }),
    [tests, hands, ordered],
  );
  // Pressed twice before the first is written, the second builds on the first: nothing that was added is lost.
  const latest = useRef(visit);
  const pending = useRef<Promise<unknown>>(Promise.resolve());
  const waiting = useRef(0);
  const [isWriting, setIsWriting] = useState(false);
  // Left in the moment between press and written, the press would be lost: the browser asks first.
  useEffect(() => {
    if (!isWriting) return;
    const hold = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', hold);
    return () => window.removeEventListener('beforeunload', hold);
  }, [isWriting]);
  const kept = useRef(visit);
  useEffect(() => {
    kept.current = visit;
    if (waiting.current > 0) return;
    latest.current = visit;
    setDraft(undefined);
  }, [visit]);
  const put = (part: (now: Said<'visit'>) => Partial<Said<'visit'>>) => {
    const said = part(latest.current);
    const one = changing('visit', latest.current, said);
    if (one === undefined) return;
    latest.current = { ...latest.current, ...said };
    setDraft((before) => ({ ...before, ...said }));
    waiting.current += 1;
    setIsWriting(true);
    // What could not be kept is said by itself, and stops nothing that is pressed after it.
    pending.current = pending.current
      .catch(() => undefined)
      .then(async () => {
        let isKept = false;
        try {
          const problem = await change([one]);
          setFault(problem?.message);
          isKept = problem === undefined;
        } finally {
          waiting.current -= 1;
          // What was refused stands no longer; what was written may have come already, else it comes with the next look at it.
          if (waiting.current === 0) {
            setIsWriting(false);
            if (!isKept) latest.current = kept.current;
            setDraft((now) => (isKept && now !== undefined && changing('visit', kept.current, now) !== undefined ? now : undefined));
          }
        }
      });
  };
  const move = (entry: Tests[number], by: -1 | 1) =>
    put(({ tests: now }) => {
      const from = now.findIndex((one) => idOf(one) === idOf(entry));
      const to = from + by;
      if (from < 0 || to < 0 || to >= now.length) return {};
      const next = [...now];
      [next[from], next[to]] = [next[to], next[from]];
      return { tests: next, ordered: true };
    });
  const leave = async () => {
    const one = changing('visit', visit, { putAway: true });
    const problem = one === undefined ? undefined : await keep([one], `Visit on ${weekday(visit.on)} taken off`);
    if (problem !== undefined) return setFault(problem.message);
    const place = { at: 'site', site: visit.siteId } as const;
    if (!go(place)) location.assign(hrefOf(place));
  };
  return (
    <Page
      width="whole"
      trail={
        <To place={{ at: 'site', site: visit.siteId }} className="underline">
          {site?.name ?? 'Site'}
        </To>
      }
      title={`Visit, ${weekday(visit.on)}`}
      line={site?.address}
      signal={signal}
      actions={
        <Button tone="bare" onClick={leave}>
          Take the visit off
        </Button>
      }
    >
      {fault !== undefined && (
        <Notice tone="stop" role="alert">
          {fault}
        </Notice>
      )}
      <div className="grid gap-8 lg:grid-cols-[22rem_minmax(0,1fr)]">
        <section aria-label="Tests of the visit" aria-busy={isWriting}>
          <h2 className={subheading}>Tests</h2>
          {entries.length === 0 && <p className="mt-1 text-quiet">Add the systems that are tested on this visit.</p>}
          <ol className="mt-2 space-y-2">
            {entries.map((entry, index) => (
              <Entry
                key={idOf(entry)}
                entry={entry}
                place={index}
                count={entries.length}
                system={systems.find(({ id }) => id === entry.system)}
                choose={(procedure) =>
                  put(({ tests: now }) => ({ tests: now.map((one) => (idOf(one) === idOf(entry) ? { ...one, procedure } : one)) }))
                }
                move={(by) => move(entry, by)}
                done={doneOf(entry)}
                takeOff={() => put(({ tests: now }) => ({ tests: now.filter((one) => idOf(one) !== idOf(entry)) }))}
              />
            ))}
          </ol>
          {papers.length > 0 && (
            <p className="mt-3">
              <a
                className={link}
                href={`/certificates/test/${papers[0]}${
                  papers.length > 1
                    ? `?${papers
                        .slice(1)
                        .map((one) => `with=${one}`)
                        .join('&')}`
                    : ''
                }`}
              >
                {papers.length > 1 ? 'One paper of these tests' : 'The paper of this test'}
              </a>
            </p>
          )}
          <AddTests
            systems={systems.filter(({ id }) => !entries.some(({ system }) => system === id))}
            add={(id) => {
              const system = systems.find((one) => one.id === id);
              const procedure = system === undefined ? undefined : usualProcedure(ground, system);
              if (procedure !== undefined)
                put(({ tests: now }) =>
                  now.some((one) => one.system === id) ? {} : { tests: [...now, { system: id, procedure: procedure.id }] },
                );
            }}
          />
          <fieldset className="mt-5">
            <legend className="font-medium">Who goes</legend>
            {people.map(({ id, name }) => (
              <label key={id} className="flex min-h-11 items-center gap-3">
                <input
                  type="checkbox"
                  className="size-5 accent-(--action)"
                  checked={shown.people.includes(id)}
                  onChange={({ target }) =>
                    put(({ people: now }) => ({ people: target.checked ? [...new Set([...now, id])] : now.filter((one) => one !== id) }))
                  }
                />
                {name}
              </label>
            ))}
          </fieldset>
          <div className="mt-3 flex flex-wrap gap-4">
            <label>
              On{' '}
              <input
                type="date"
                className={`${input} figures mt-0.5 !w-44`}
                value={shown.on}
                onChange={({ target }) => target.value !== '' && put(() => ({ on: target.value }))}
              />
            </label>
            <label>
              Begin at <KeyHint of="B" />
              <input
                type="time"
                aria-keyshortcuts="b"
                className={`${input} figures mt-0.5 !w-36`}
                value={shown.begins}
                onChange={({ target }) => put(() => ({ begins: target.value }))}
              />
            </label>
          </div>
          {ordered && entries.length > 1 && (
            <Button tone="quiet" className="mt-3" shortcut="f" onClick={() => put(() => ({ ordered: false }))}>
              Find the shortest order again
            </Button>
          )}
        </section>
        <section aria-label="Time chart" className="min-w-0">
          {tests.length > 0 && laid === undefined && (
            <Notice tone="stop">
              {ordered
                ? 'In this order one test waits for another that cannot begin: they share a gauge, or one needs the supply as the other leaves it. Change the order, or let the shortest be found.'
                : 'These tests need one supply in two states whatever the order. Take one of them off the visit.'}
            </Notice>
          )}
          {laid !== undefined && tests.length > 0 && (
            <>
              <p className="text-lg">
                <b className="figures">{hours(laid.minutes)}</b>
                {tests.length > 1 && (
                  <>
                    , one after the other <span className="figures">{hours(laid.oneByOne)}</span>
                  </>
                )}
                {ordered && <span className="text-quiet">, begun in your order</span>}
              </p>
              <DayChart day={laid} tests={tests} startAt={startAt} />
              <OccupierNotice day={laid} visit={shown} startAt={startAt} site={site?.name ?? ''} />
              <Alarms day={laid} tests={tests} startAt={startAt} />
            </>
          )}
        </section>
      </div>
    </Page>
  );
}

/** A local moment of a date and a time of day. */
function momentOf(on: string, begins: string): number {
  const [year, month, day] = on.split('-').map(Number);
  const [hour, minute] = begins.split(':').map(Number);
  return new Date(year, month - 1, day, hour, minute).getTime();
}

/** What the occupier is told: when what is off, ready to be copied or shared. */
function OccupierNotice({
  day,
  visit,
  startAt,
  site,
}: {
  readonly day: Day;
  readonly visit: Thing<'visit'>;
  readonly startAt: number;
  readonly site: string;
}) {
  const off = withoutSupply(day);
  const at = (minute: number) => hourText(startAt + minute * 60_000);
  const lines = [
    `${weekday(visit.on)}, ${site}: we test the pipework, about ${at(0)} to ${at(day.minutes)}.`,
    ...off.map(({ of, fromMinute, toMinute }) =>
      of === 'water'
        ? `No water from about ${at(fromMinute)} to ${at(toMinute)}. Please draw none and flush nothing until we say that it is back.`
        : `No gas from about ${at(fromMinute)} to ${at(toMinute)}. Please light nothing and leave appliances off until we say that it is back.`,
    ),
    ...(off.length === 0 ? ['Water and gas stay on.'] : []),
  ];
  const text = lines.join('\n');
  return (
    <section className="mt-5 border-l-4 border-line bg-surface px-3 py-2" aria-label="Notice to the occupier">
      <h2 className="font-semibold">For the occupier</h2>
      {lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
      <ShareText text={text} />
    </section>
  );
}

/** Keys of the test that has the focus: each presses the button of its row that names it. */
const rowKey = (event: React.KeyboardEvent<HTMLElement>) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const found = event.currentTarget.querySelector<HTMLElement>(`[data-row-key="${CSS.escape(event.key.toLowerCase())}"]`);
  if (found === null) return;
  event.preventDefault();
  found.click();
};

function Entry({
  entry,
  place,
  count,
  system,
  choose,
  move,
  takeOff,
  done,
}: {
  readonly entry: Tests[number];
  readonly place: number;
  readonly count: number;
  readonly system: GroundSystem | undefined;
  readonly choose: (procedure: string) => void;
  readonly move: (by: -1 | 1) => void;
  readonly takeOff: () => void;
  /** The test that was made of it on that day. */
  readonly done?: Ground['earlier'][number];
}) {
  const name = system?.name ?? '';
  const offered = proceduresFor(system?.kind ?? '');
  const isOver = done !== undefined && done.verdict !== 'in progress';
  return (
    <li className="border border-line p-3" onKeyDown={rowKey}>
      <p className="font-medium">
        <span className="figures mr-2 text-quiet">{place + 1}</span>
        {name}
      </p>
      {offered.length > 1 ? (
        <Choice
          className="mt-1"
          label={`Procedure for ${name}`}
          options={offered.map(({ id, title }) => ({ value: id, label: title }))}
          value={entry.procedure}
          change={choose}
        />
      ) : (
        <p className="text-sm text-quiet">{offered[0]?.title}</p>
      )}
      {done !== undefined && (
        <div className="mt-1">
          <VerdictMark verdict={done.verdict} size={16} />
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-1.5">
        <OrderButtons shortcut={String(place + 1)} name={name} first={place === 0} last={place === count - 1} move={move} />
        <Button tone="quiet" className="px-3" data-row-key="x" onClick={takeOff}>
          Take off <span className="sr-only">{name}</span> <KeyHint of="X" />
        </Button>
        {/* What was done is done again only on purpose. */}
        <To
          place={{ at: 'plan', system: entry.system, procedure: entry.procedure }}
          className={`${buttonLook(isOver ? 'quiet' : undefined)} px-3`}
        >
          {isOver ? 'Plan it again' : 'Plan it'}
        </To>
      </div>
    </li>
  );
}

/** Earlier and later, by tap or by the arrow keys; the focus stays with the test that moves. */
function OrderButtons({
  shortcut,
  name,
  first,
  last,
  move,
}: {
  /** Key that goes to this test. */
  readonly shortcut: string;
  readonly name: string;
  readonly first: boolean;
  readonly last: boolean;
  readonly move: (by: -1 | 1) => void;
}) {
  const pressed = (event: React.KeyboardEvent) => {
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    move(event.key === 'ArrowUp' ? -1 : 1);
  };
  // Not disabled at an end: a disabled button would lose the focus, and with it the keys.
  const one = (label: string, sign: string, by: -1 | 1, end: boolean) => (
    <Button
      tone="quiet"
      className="px-3"
      aria-disabled={end}
      {...(by === -1 ? { 'aria-keyshortcuts': shortcut, 'data-key-goes': '' } : {})}
      aria-label={label}
      onClick={() => move(by)}
      onKeyDown={pressed}
    >
      {sign}
    </Button>
  );
  return (
    <>
      {one(`Begin ${name} earlier`, '↑', -1, first)}
      {one(`Begin ${name} later`, '↓', 1, last)}
    </>
  );
}

const hours = (minutes: number): string => (minutes < 90 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`);

/** When each alarm sounds, and what can be done until then. */
function Alarms({ day, tests, startAt }: { readonly day: Day; readonly tests: DayTests; readonly startAt: number }) {
  const titleOf = (id: string) => tests.find((test) => test.id === id)?.title ?? '';
  return (
    <section className="mt-5" aria-label="Alarms">
      <h2 className={subheading}>Alarms, and what to do until then</h2>
      <ol className="mt-1 divide-y divide-line border-y border-line">
        {alarmsOf(day).map(({ minute, test, task }) => {
          const own = day.tasks.find((one) => one.test === test && one.task === task);
          const other = day.tasks.filter(
            (one) => one.test !== test && own !== undefined && one.startMinute < own.endMinute && one.freeMinute > own.freeMinute,
          );
          const meanwhile = [
            ...other.map((one) => `${one.task} (${titleOf(one.test)})`),
            ...(own?.meanwhile === undefined ? [] : [own.meanwhile]),
          ];
          return (
            <li key={test + task} className="grid gap-x-4 py-2 sm:grid-cols-[5rem_16rem_1fr]">
              <b className="figures">{hourText(startAt + minute * 60_000)}</b>
              <span>
                {task} <span className="block text-sm text-quiet">{titleOf(test)}</span>
              </span>
              <span className="text-sm">{meanwhile.length === 0 ? '' : `Until then: ${meanwhile.join('; ')}`}</span>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function AddTests({
  systems,
  add,
}: {
  readonly systems: readonly { readonly id: string; readonly name: string }[];
  readonly add: (systemId: string) => void;
}) {
  if (systems.length === 0) return null;
  return (
    <div className="mt-3">
      <h3 className="text-sm text-quiet">
        Other systems here <KeyHint of="N" />
      </h3>
      <ul className="mt-1 flex flex-wrap gap-1.5">
        {systems.map(({ id, name }) => (
          <li key={id}>
            <Button tone="quiet" className="px-3 text-sm" aria-keyshortcuts="n" onClick={() => add(id)}>
              + {name}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
