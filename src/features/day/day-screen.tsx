'use client';

import { useMemo, useState } from 'react';
import { dateText } from '@/core/judging';
import { alarmsOf, sideBySide } from '@/core/planning';
import { proceduresFor } from '@/core/procedures';
import { now, offsetMinutes } from '@/features/field/clock';
import { useField } from '@/features/field/field';
import { FieldHeader } from '@/features/field/field-header';
import { button, input, quietButton, subheading } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';
import { Notice } from '@/ui/notice';
import { useButtonKeys } from '@/ui/use-shortcuts';
import { DayChart } from './day-chart';
import { type DayEntry, type DayPlan, dayTests, keepDay, readDay, usualProcedure } from './day-plan';

const idOf = ({ systemId, procedureId }: DayEntry) => `${systemId} ${procedureId}`;

/** A site's day: which tests, in which order, and when hands are busy, what waits, and when each alarm sounds. */
export function DayScreen({ siteId, plan }: { readonly siteId: string; readonly plan: (systemId: string, procedureId: string) => void }) {
  useButtonKeys();
  const { kit } = useField();
  const on = dateText(now() + offsetMinutes() * 60_000);
  const [day, setDay] = useState<DayPlan>(() => readDay(siteId, on));
  const [opened] = useState(() => Math.ceil(now() / 300_000) * 300_000);
  const startAt = day.startAt ?? opened;
  const systems = kit.systems.filter(({ site }) => site.id === siteId);
  const tests = useMemo(() => dayTests(kit, day.entries, on), [kit, day.entries, on]);
  const laid = useMemo(
    () => sideBySide(tests, { people: day.people, ...(day.ordered ? { order: tests.map(({ id }) => id) } : {}) }),
    [tests, day.people, day.ordered],
  );
  const change = (part: Partial<DayPlan>) => {
    const next = { ...day, startAt, ...part };
    keepDay(siteId, next);
    setDay(next);
  };
  const move = (index: number, by: -1 | 1) => {
    const entries = [...day.entries];
    const to = index + by;
    if (to < 0 || to >= entries.length) return;
    [entries[index], entries[to]] = [entries[to], entries[index]];
    change({ entries, ordered: true });
  };
  const site = systems[0]?.site;
  return (
    <main className="mx-auto max-w-6xl px-4 pb-16 pt-4">
      <FieldHeader place={site?.name ?? 'Site'} title="The day on site" />
      <div className="grid gap-8 lg:grid-cols-[22rem_minmax(0,1fr)]">
        <section aria-label="Tests of the day">
          <h2 className={subheading}>Tests</h2>
          {day.entries.length === 0 && <p className="mt-1 text-quiet">Add the systems that are tested today.</p>}
          <ol className="mt-2 space-y-2">
            {day.entries.map((entry, index) => {
              const system = systems.find(({ id }) => id === entry.systemId);
              return (
                <li key={idOf(entry)} className="border border-line p-3" onKeyDown={rowKey}>
                  <p className="font-medium">
                    <span className="figures mr-2 text-quiet">{index + 1}</span>
                    {system?.name}
                  </p>
                  <select
                    aria-label={`Procedure for ${system?.name}`}
                    className={`${input} mt-1`}
                    value={entry.procedureId}
                    onChange={(event) =>
                      change({
                        entries: day.entries.map((one, place) => (place === index ? { ...one, procedureId: event.target.value } : one)),
                      })
                    }
                  >
                    {proceduresFor(system?.kind ?? '').map(({ id, title }) => (
                      <option key={id} value={id}>
                        {title}
                      </option>
                    ))}
                  </select>
                  <div className="mt-2 flex flex-wrap gap-1.5">
                    <OrderButtons
                      shortcut={String(index + 1)}
                      name={system?.name ?? ''}
                      first={index === 0}
                      last={index === day.entries.length - 1}
                      move={(by) => move(index, by)}
                    />
                    <button
                      type="button"
                      className={`${quietButton} min-h-11 px-3`}
                      data-row-key="x"
                      onClick={() => change({ entries: day.entries.filter((_, place) => place !== index) })}
                    >
                      Take off <span className="sr-only">{system?.name}</span> <KeyHint of="X" />
                    </button>
                    <button
                      type="button"
                      className={`${button} min-h-11 px-3`}
                      data-row-key="p"
                      onClick={() => plan(entry.systemId, entry.procedureId)}
                    >
                      Plan it <KeyHint of="P" plain />
                    </button>
                  </div>
                </li>
              );
            })}
          </ol>
          <AddTests
            systems={systems.filter(({ id }) => !day.entries.some(({ systemId }) => systemId === id))}
            add={(systemId) => {
              const system = systems.find(({ id }) => id === systemId);
              const procedure = system === undefined ? undefined : usualProcedure(kit, system);
              if (procedure !== undefined) change({ entries: [...day.entries, { systemId, procedureId: procedure.id }] });
            }}
          />
          <label className="mt-4 flex items-center gap-3">
            <span>
              People <KeyHint of="H" />
            </span>
            <select
              aria-keyshortcuts="h"
              className={`${input} !w-24`}
              value={day.people}
              onChange={(event) => change({ people: Number(event.target.value) })}
            >
              {[1, 2, 3].map((count) => (
                <option key={count} value={count}>
                  {count}
                </option>
              ))}
            </select>
          </label>
          <label className="mt-3 flex items-center gap-3">
            <span>
              Begin at <KeyHint of="B" />
            </span>
            <input
              type="time"
              aria-keyshortcuts="b"
              className={`${input} figures !w-36`}
              value={timeValue(startAt)}
              onChange={(event) => {
                const [hour, minute] = event.target.value.split(':').map(Number);
                if (Number.isFinite(hour) && Number.isFinite(minute)) change({ startAt: new Date(startAt).setHours(hour, minute, 0, 0) });
              }}
            />
          </label>
          {day.ordered && day.entries.length > 1 && (
            <button type="button" className={`${quietButton} mt-3`} aria-keyshortcuts="f" onClick={() => change({ ordered: false })}>
              Find the shortest order again <KeyHint of="F" />
            </button>
          )}
        </section>
        <section aria-label="Time chart" className="min-w-0">
          {tests.length > 0 && laid === undefined && (
            <Notice tone="stop">
              {day.ordered
                ? 'In this order one test waits for another that cannot begin: they share a gauge, or one needs the supply as the other leaves it. Change the order, or let the shortest be found.'
                : 'These tests need one supply in two states whatever the order. Take one of them off the day.'}
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
                {day.ordered && <span className="text-quiet">, begun in your order</span>}
              </p>
              <DayChart day={laid} tests={tests} startAt={startAt} />
              <Alarms day={laid} tests={tests} startAt={startAt} />
            </>
          )}
        </section>
      </div>
    </main>
  );
}

/** Keys of the test that has the focus: each presses the button of its row that names it. */
const rowKey = (event: React.KeyboardEvent<HTMLElement>) => {
  if (event.ctrlKey || event.metaKey || event.altKey || (event.target as HTMLElement).matches('select')) return;
  const found = event.currentTarget.querySelector<HTMLElement>(`[data-row-key="${CSS.escape(event.key.toLowerCase())}"]`);
  if (found === null) return;
  event.preventDefault();
  found.click();
};

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
    <button
      type="button"
      className={`${quietButton} min-h-11 px-3 ${end ? 'opacity-40' : ''}`}
      aria-disabled={end}
      {...(by === -1 ? { 'aria-keyshortcuts': shortcut, 'data-key-goes': '' } : {})}
      aria-label={label}
      onClick={() => move(by)}
      onKeyDown={pressed}
    >
      {sign}
    </button>
  );
  return (
    <>
      {one(`Begin ${name} earlier`, '↑', -1, first)}
      {one(`Begin ${name} later`, '↓', 1, last)}
    </>
  );
}

const timeValue = (ms: number): string => {
  const date = new Date(ms);
  return `${String(date.getHours()).padStart(2, '0')}:${String(date.getMinutes()).padStart(2, '0')}`;
};

const hours = (minutes: number): string => (minutes < 90 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`);

const timeOf = (startAt: number, minute: number): string =>
  new Date(startAt + minute * 60_000).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });

/** When each alarm sounds, and what can be done until then. */
function Alarms({
  day,
  tests,
  startAt,
}: {
  readonly day: NonNullable<ReturnType<typeof sideBySide>>;
  readonly tests: ReturnType<typeof dayTests>;
  readonly startAt: number;
}) {
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
              <b className="figures">{timeOf(startAt, minute)}</b>
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
            <button type="button" className={`${quietButton} min-h-11 px-3 text-sm`} aria-keyshortcuts="n" onClick={() => add(id)}>
              + {name}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
