import { subtree } from '@/core/locating/likelihood';
import type { SectionFault, SectionRow } from '@/core/locating/sections';
import { input } from '@/ui/classes';

const numbers = [
  ['joints', 'Joints'],
  ['age', 'Years'],
  ['minutes', 'Min to shut off'],
] as const;

/** One section's fields in a row; what is wrong stands under them. */
export function SectionFields({
  row,
  rows,
  root,
  faults,
  change,
  remove,
}: {
  readonly row: SectionRow;
  readonly rows: readonly SectionRow[];
  /** Where the supply comes in: it hangs on nothing, and stays. */
  readonly root: boolean;
  readonly faults: readonly SectionFault[];
  readonly change: (part: Partial<SectionRow>) => void;
  readonly remove: () => void;
}) {
  const named = row.name.trim() || 'this section';
  const wrong = (field: SectionFault['field']) => faults.some((fault) => fault.field === field);
  // Not on itself, nor on what hangs on it.
  const below = subtree(rows, row.id);
  return (
    <li className="py-3">
      <div className="grid grid-cols-6 items-end gap-2 sm:grid-cols-[minmax(0,1.6fr)_minmax(0,1.2fr)_4.5rem_4.5rem_5rem_auto_auto]">
        <label className="col-span-3 text-sm text-quiet sm:col-span-1">
          Name
          <input
            id={`${row.id}-name`}
            className={`${input} text-base`}
            value={row.name}
            maxLength={120}
            autoComplete="off"
            aria-invalid={wrong('name')}
            onChange={(event) => change({ name: event.target.value })}
          />
        </label>
        {root ? (
          <p className="col-span-3 self-center pt-5 text-sm text-quiet sm:col-span-1">the supply comes in here</p>
        ) : (
          <label className="col-span-3 text-sm text-quiet sm:col-span-1">
            Hangs on
            <select
              className={`${input} text-base`}
              value={row.parent ?? ''}
              aria-invalid={wrong('parent')}
              onChange={(event) => change({ parent: event.target.value })}
            >
              {rows
                .filter(({ id }) => !below.has(id))
                .map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name.trim() || 'not named yet'}
                  </option>
                ))}
            </select>
          </label>
        )}
        {numbers.map(([field, label]) => (
          <label key={field} className="col-span-2 text-sm whitespace-nowrap text-quiet sm:col-span-1">
            {label}
            <input
              className={`${input} figures text-base`}
              inputMode="numeric"
              autoComplete="off"
              value={row[field]}
              aria-invalid={wrong(field)}
              onChange={(event) => change({ [field]: event.target.value })}
            />
          </label>
        ))}
        <label className="col-span-3 flex min-h-11 items-center gap-2 sm:col-span-1">
          <input
            type="checkbox"
            className="size-5 accent-(--action)"
            checked={row.hidden}
            onChange={(event) => change({ hidden: event.target.checked })}
          />
          hidden
        </label>
        {root ? (
          <span />
        ) : (
          <button
            type="button"
            className="col-span-3 min-h-11 px-2 underline sm:col-span-1"
            aria-label={`Take ${named} away`}
            title="What hangs on it then hangs on what it hung on"
            onClick={remove}
          >
            Take away
          </button>
        )}
      </div>
      {faults.map(({ field, message }) => (
        <p key={field} role="alert" className="mt-1 text-sm font-medium text-stop">
          {message}
        </p>
      ))}
    </li>
  );
}
