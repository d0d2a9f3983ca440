'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { guessColumns, type SheetKind, sheetColumns } from '@/core/register';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Notice } from '@/ui/notice';
import { post } from '@/ui/post';
import { Progress } from '@/ui/progress';
import { useToast } from '@/ui/toasts';
import { SheetRows, type ShownRow } from './sheet-rows';

const kinds: readonly { readonly value: SheetKind; readonly label: string }[] = [
  { value: 'site', label: 'Sites' },
  { value: 'system', label: 'Systems' },
  { value: 'component', label: 'Components' },
  { value: 'instrument', label: 'Gauges' },
];
const many: Readonly<Record<SheetKind, string>> = { site: 'sites', system: 'systems', component: 'components', instrument: 'gauges' };

/** A table as it was read, and what has become of its rows. */
interface Sheet {
  readonly kind: SheetKind;
  readonly file: string;
  readonly header: readonly string[];
  /** Which of its columns each of ours is, -1 for none. */
  readonly columns: Readonly<Record<string, number>>;
  readonly rows: readonly {
    readonly number: number;
    readonly cells: readonly string[];
    readonly mended?: Readonly<Record<string, string>>;
  }[];
  readonly found: Readonly<Record<number, ShownRow['found']>>;
  readonly made: number;
}

const labels = (kind: SheetKind, isNeeded: boolean): string =>
  sheetColumns[kind].flatMap(({ label, needed }) => ((needed === true) === isNeeded ? [label] : [])).join(', ');
/** So many of them, in words. */
const counted = (kind: SheetKind, count: number): string => `${count} ${count === 1 ? many[kind].slice(0, -1) : many[kind]}`;

const batch = 200;
const mostRows = 20_000;

const cellsOf = ({ columns }: Sheet, { cells, mended = {} }: Sheet['rows'][number]): Readonly<Record<string, string>> => ({
  ...Object.fromEntries(Object.entries(columns).map(([field, at]) => [field, at < 0 ? '' : (cells[at] ?? '')])),
  ...mended,
});

/** The text of a file as spreadsheets write it: UTF-8, UTF-16 with its mark, or the letters of an older Windows. */
function decoded(bytes: Uint8Array<ArrayBuffer>): string {
  const mark = bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : undefined;
  if (mark !== undefined) return new TextDecoder(mark).decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

function kept(under: string): Sheet | undefined {
  try {
    return JSON.parse(localStorage.getItem(under) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
}

/**
 * Tables of sites, systems, components and gauges from elsewhere: the columns are found and can be changed, every row is looked at before
 * anything is made, and what cannot be made stays here until it is mended, through a reload too.
 */
export function SheetImport({ of: person }: { readonly of: string }) {
  // A shared browser never shows one person's table to another.
  const keptAs = `vast-stone-sheet-${person}`;
  const say = useToast();
  const [kind, setKind] = useState<SheetKind>('site');
  const [sheet, setSheet] = useState<Sheet>();
  const [fault, setFault] = useState<string>();
  const [busy, setBusy] = useState<{ readonly label: string; readonly done: number; readonly total: number }>();
  const latest = useRef<Sheet>(undefined);
  const keep = (next: Sheet | undefined) => {
    latest.current = next;
    setSheet(next);
    try {
      if (next === undefined) localStorage.removeItem(keptAs);
      else localStorage.setItem(keptAs, JSON.stringify(next));
    } catch {
      setFault('This browser has no room to keep the table through a reload. Finish it before you close the page.');
    }
  };
  useEffect(() => {
    const before = kept(keptAs);
    if (before === undefined) return;
    latest.current = before;
    setSheet(before);
    setKind(before.kind);
  }, [keptAs]);

  // One asking after another: what is taken in is what was found last, and no row is taken twice.
  const asking = useRef<Promise<unknown>>(Promise.resolve());
  const inTurn = (work: () => Promise<void>) => {
    // What went wrong with one is no reason never to ask again.
    asking.current = asking.current.then(work, work);
    return asking.current;
  };
  /** Asks the server of rows, some at a time; what it found of each is shown as it comes, beside what is typed meanwhile. */
  const ask = async (of: Sheet, rows: Sheet['rows'], make: boolean) => {
    setFault(undefined);
    for (let from = 0; from < rows.length; from += batch) {
      if (make || rows.length > 1) setBusy({ label: make ? 'Taking in' : 'Looking at the rows', done: from, total: rows.length });
      const part = rows.slice(from, from + batch);
      const answer = await post<readonly NonNullable<ShownRow['found']>[]>(
        'POST /api/sheets',
        {},
        { kind: of.kind, keep: make, rows: part.map((row) => cellsOf(of, row)) },
      );
      if (!answer.ok) {
        setFault(answer.problem.message);
        break;
      }
      const now = latest.current;
      if (now === undefined) break;
      const found: Sheet['found'] = { ...now.found, ...Object.fromEntries(part.map(({ number }, index) => [number, answer.value[index]])) };
      // What is made stands in the register: here it is done with.
      const isOver = ({ number }: Sheet['rows'][number]) => found[number]?.is === 'made' && found[number]?.message === undefined;
      keep({ ...now, found, made: now.made + part.filter(isOver).length, rows: now.rows.filter((row) => !isOver(row)) });
    }
    setBusy(undefined);
  };

  const read = async (file: File | undefined) => {
    if (file === undefined) return;
    setFault(undefined);
    if (file.size > 20_000_000) return setFault('This file is larger than 20 MB. Split the table.');
    const { default: Papa } = await import('papaparse');
    const text = decoded(new Uint8Array(await file.arrayBuffer()));
    if (text.includes('\u0000') || text.startsWith('PK')) return setFault('This is no table of text. Save it as CSV and choose that file.');
    const [header = [], ...rows] = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' }).data;
    if (rows.length === 0) return setFault('There are no rows in it: the first line names the columns, and each line after it is a row.');
    if (rows.length > mostRows) return setFault(`There are ${rows.length} rows in it. Take ${mostRows} at a time.`);
    const guessed = guessColumns(kind, header);
    const next: Sheet = {
      kind,
      file: file.name,
      header,
      columns: Object.fromEntries(sheetColumns[kind].map(({ field }) => [field, guessed[field] ?? -1])),
      rows: rows.map((cells, index) => ({ number: index + 2, cells })),
      found: {},
      made: 0,
    };
    keep(next);
    await inTurn(() => ask(next, next.rows, false));
  };

  const shown = useMemo<readonly ShownRow[]>(
    () => sheet?.rows.map((row) => ({ number: row.number, cells: cellsOf(sheet, row), found: sheet.found[row.number] })) ?? [],
    [sheet],
  );
  const ready = shown.filter(({ found }) => found?.is === 'ready');
  const mend = (number: number, field: string, text: string) => {
    const now = latest.current;
    if (now === undefined) return;
    keep({ ...now, rows: now.rows.map((row) => (row.number === number ? { ...row, mended: { ...row.mended, [field]: text } } : row)) });
  };
  const lookAgain = (number: number) =>
    inTurn(async () => {
      const now = latest.current;
      const row = now?.rows.find((one) => one.number === number);
      if (now !== undefined && row !== undefined) await ask(now, [row], false);
    });
  const takeIn = () =>
    inTurn(async () => {
      const now = latest.current;
      if (now === undefined) return;
      const are = now.rows.filter((row) => now.found[row.number]?.is === 'ready');
      await ask(now, are, true);
    });
  const saveRest = async () => {
    if (sheet === undefined) return;
    const { default: Papa } = await import('papaparse');
    const columns = sheetColumns[sheet.kind];
    const text = Papa.unparse([
      [...columns.map(({ label }) => label), 'What is wrong'],
      ...shown.map(({ cells, found }) => [...columns.map(({ field }) => cells[field] ?? ''), found?.message ?? '']),
    ]);
    const address = URL.createObjectURL(new Blob([`\uFEFF${text}`], { type: 'text/csv' }));
    const anchor = Object.assign(document.createElement('a'), { href: address, download: `to-mend-${many[sheet.kind]}.csv` });
    anchor.click();
    URL.revokeObjectURL(address);
  };

  return (
    <section aria-labelledby="sheet" className="min-w-0 space-y-4">
      <h2 id="sheet" className={subheading}>
        Tables from elsewhere
      </h2>
      {sheet === undefined ? (
        <>
          <p>
            A CSV file with a line of heads: sites first, then their systems, then what hangs on those. Every row is looked at before
            anything is made.
          </p>
          <Choice label="What the rows are" options={kinds} value={kind} change={setKind} />
          <p className="text-sm text-quiet">
            Its columns: {labels(kind, true)}; where there are any, {labels(kind, false)}. Other names for them are found or set.
          </p>
          <label className="block font-medium">
            Table of {many[kind]}
            <input
              type="file"
              accept=".csv,text/csv,text/plain"
              className={`${input} mt-1`}
              onChange={({ target }) => read(target.files?.[0])}
            />
          </label>
        </>
      ) : (
        <>
          <p>
            <b>{sheet.file}</b>: {sheet.made > 0 && `${counted(sheet.kind, sheet.made)} taken in; `}
            {sheet.rows.length === 0
              ? 'nothing is left of it.'
              : sheet.rows.length === 1
                ? 'one row is left.'
                : `${sheet.rows.length} rows are left.`}
          </p>
          {sheet.rows.length > 0 && (
            <Columns
              sheet={sheet}
              disabled={busy !== undefined}
              change={(field, at) => {
                const next = { ...sheet, columns: { ...sheet.columns, [field]: at }, found: {} };
                keep(next);
                inTurn(() => ask(next, next.rows, false));
              }}
            />
          )}
          {busy !== undefined && <Progress label={busy.label} done={busy.done} total={busy.total} />}
          <div className="flex flex-wrap gap-3">
            {sheet.rows.length > 0 && (
              <Button disabled={busy !== undefined || ready.length === 0} onClick={takeIn}>
                Take in {counted(sheet.kind, ready.length)}
              </Button>
            )}
            {sheet.rows.length > 0 && (
              <Button tone="quiet" onClick={saveRest}>
                Save what is left as a table
              </Button>
            )}
            <Button
              tone="quiet"
              disabled={busy !== undefined}
              onClick={() => {
                keep(undefined);
                if (sheet.rows.length > 0) say(`${sheet.file} is put away`, () => keep(sheet));
              }}
            >
              {sheet.rows.length === 0 ? 'Another table' : 'Put this table away'}
            </Button>
          </div>
          {sheet.rows.length > 0 && <SheetRows kind={sheet.kind} rows={shown} mend={mend} look={lookAgain} />}
        </>
      )}
      {fault !== undefined && (
        <Notice tone="stop" role="alert">
          {fault}
        </Notice>
      )}
    </section>
  );
}

/** Which column of the file is which of ours. */
function Columns({
  sheet,
  disabled,
  change,
}: {
  readonly sheet: Sheet;
  readonly disabled: boolean;
  readonly change: (field: string, at: number) => void;
}) {
  const [open, setOpen] = useState<boolean>();
  const unset = sheetColumns[sheet.kind].filter(({ field, needed }) => needed === true && sheet.columns[field] < 0);
  const example = (at: number): string => sheet.rows.find(({ cells }) => (cells[at] ?? '').trim() !== '')?.cells[at]?.slice(0, 24) ?? '';
  return (
    <Disclosure
      title={unset.length === 0 ? 'Its columns' : `Its columns: ${unset.map(({ label }) => label).join(', ')} to be set`}
      shown={open ?? unset.length > 0}
      show={setOpen}
      look={unset.length === 0 ? undefined : 'font-medium text-stop'}
    >
      <fieldset disabled={disabled}>
        <legend className="sr-only">Its columns</legend>
        <div className="mt-1 grid gap-x-4 gap-y-2 sm:grid-cols-2 lg:grid-cols-3">
          {sheetColumns[sheet.kind].map(({ field, label, needed }) => (
            <label key={field} className="text-sm">
              {label}
              {needed === true && sheet.columns[field] < 0 && <b className="text-stop"> is missing</b>}
              <select
                className={`${input} mt-0.5 text-base`}
                value={sheet.columns[field]}
                onChange={({ target }) => change(field, Number(target.value))}
              >
                <option value={-1}>none</option>
                {sheet.header.map((head, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a column is known by its place alone
                  <option key={at} value={at}>
                    {head.trim() === '' ? `Column ${at + 1}` : head}
                    {example(at) !== '' && ` (${example(at)})`}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
      </fieldset>
    </Disclosure>
  );
}
