'use client';

import { useState } from 'react';
import { type SheetKind, sheetColumns } from '@/core/register';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';

export interface ShownRow {
  /** Its line in the file. */
  readonly number: number;
  readonly cells: Readonly<Record<string, string>>;
  readonly found?: {
    readonly is: 'ready' | 'stands' | 'wrong' | 'made';
    readonly message?: string;
    readonly field?: string;
  };
}

const pageRows = 50;

/** The rows that are left of a table: what is wrong first, each cell at fault to be mended where it stands. */
export function SheetRows({
  kind,
  rows,
  mend,
  look,
}: {
  readonly kind: SheetKind;
  readonly rows: readonly ShownRow[];
  readonly mend: (number: number, field: string, text: string) => void;
  /** Has a row looked at again. */
  readonly look: (number: number) => void;
}) {
  const of = (is: NonNullable<ShownRow['found']>['is']) => rows.filter(({ found }) => found?.is === is);
  const groups = [
    { value: 'wrong', label: `To mend (${of('wrong').length})` },
    { value: 'ready', label: `Ready (${of('ready').length})` },
    { value: 'stands', label: `Stand already (${of('stands').length})` },
  ] as const;
  const [chosen, setChosen] = useState<(typeof groups)[number]['value']>();
  const [most, setMost] = useState(pageRows);
  const open = chosen ?? (of('wrong').length > 0 ? 'wrong' : 'ready');
  const shown = [...of(open), ...(open === 'ready' ? of('made') : [])];
  const columns = sheetColumns[kind].filter(({ field, needed }) => needed === true || rows.some(({ cells }) => cells[field] !== ''));
  return (
    <div>
      <Choice label="Rows shown" options={groups} value={open} change={setChosen} />
      {shown.length === 0 ? (
        <p className="mt-2 text-quiet">None.</p>
      ) : (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls sideways is scrolled by keys
        <section className="mt-2 overflow-x-auto" aria-label="Rows of the table" tabIndex={0}>
          <table className="w-full border-collapse text-sm">
            <thead>
              <tr className="border-b-2 border-line text-left">
                <th className="py-1 pr-3 font-medium">Line</th>
                {columns.map(({ field, label }) => (
                  <th key={field} className="py-1 pr-3 font-medium">
                    {label}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {shown.slice(0, most).map(({ number, cells, found }) => (
                <Row
                  key={number}
                  number={number}
                  cells={cells}
                  found={found}
                  columns={columns}
                  all={sheetColumns[kind]}
                  mend={mend}
                  look={look}
                />
              ))}
            </tbody>
          </table>
          {shown.length > most && (
            <Button tone="bare" onClick={() => setMost(most + pageRows)}>
              {shown.length - most} more
            </Button>
          )}
        </section>
      )}
    </div>
  );
}

function Row({
  number,
  cells,
  found,
  columns,
  all,
  mend,
  look,
}: ShownRow & {
  readonly columns: (typeof sheetColumns)[SheetKind];
  readonly all: (typeof sheetColumns)[SheetKind];
  readonly mend: (number: number, field: string, text: string) => void;
  readonly look: (number: number) => void;
}) {
  const says = `row-${number}`;
  const isWrong = found?.is === 'wrong';
  const at = isWrong ? all.filter(({ field }) => field === found.field) : [];
  return (
    <>
      <tr className={found?.message === undefined ? 'border-b border-line' : ''}>
        <td className="figures py-1 pr-3 text-quiet">{number}</td>
        {columns.map(({ field }) => (
          <td key={field} className="max-w-64 py-1 pr-3 align-top">
            <span className={`line-clamp-3 break-words ${isWrong && found.field === field ? 'text-stop' : ''}`}>{cells[field]}</span>
          </td>
        ))}
      </tr>
      {found?.message !== undefined && (
        <tr className="border-b border-line">
          <td />
          {/* What is to be mended stands in sight, however wide the table is. */}
          <td colSpan={columns.length} className="pb-3">
            <div className="sticky left-0 max-w-[min(34rem,80vw)]">
              {at.map(({ field, label }) => (
                <label key={field} className="mt-1 flex items-center gap-2">
                  <span className="shrink-0 font-medium">
                    {label}
                    <span className="sr-only">, line {number}</span>
                  </span>
                  <input
                    className={input}
                    aria-invalid
                    aria-describedby={says}
                    value={cells[field] ?? ''}
                    onChange={({ target }) => mend(number, field, target.value)}
                    onBlur={() => look(number)}
                    onKeyDown={({ key }) => key === 'Enter' && look(number)}
                  />
                </label>
              ))}
              <p id={says} className={`mt-1 whitespace-normal ${isWrong ? 'text-stop' : 'text-quiet'}`}>
                {found.message}
              </p>
            </div>
          </td>
        </tr>
      )}
    </>
  );
}
