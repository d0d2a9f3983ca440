import { type SectionFault, type SectionRow, subtree } from '@/core/locating';
import { Button } from '@/ui/button';
import { Choice } from '@/ui/choice';
import { input } from '@/ui/classes';

const numbers = [
  ['joints', 'Joints'],
  ['age', 'Years'],
  ['minutes', 'Minutes to shut'],
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
      <div className="grid grid-cols-2 gap-2">
        <label className="block text-sm text-quiet">
          Name
          <input
            id={`${row.id}-name`}
            className={`${input} text-base`}
            value={row.name}
            autoComplete="off"
            aria-invalid={wrong('name')}
            onChange={(event) => change({ name: event.target.value })}
          />
        </label>
        {root ? (
          <p className="self-end pb-3 text-sm text-quiet">The supply comes in here.</p>
        ) : (
          <div className="text-sm text-quiet">
            <span id={`${row.id}-parent`}>Hangs on</span>
            <Choice
              className="text-base"
              labelledBy={`${row.id}-parent`}
              value={row.parent ?? ''}
              invalid={wrong('parent')}
              change={(parent) => change({ parent })}
              options={rows
                .filter(({ id }) => !below.has(id))
                .map(({ id, name }) => ({ value: id, label: name.trim() || 'not named yet' }))}
            />
          </div>
        )}
      </div>
      <div className="mt-1 flex flex-wrap items-end gap-x-3 gap-y-1">
        {numbers.map(([field, label]) => (
          <label key={field} className="block text-sm text-quiet">
            <span className="block">{label}</span>
            <input
              className={`${input} figures !w-24 text-base`}
              inputMode="numeric"
              autoComplete="off"
              value={row[field]}
              aria-invalid={wrong(field)}
              onChange={(event) => change({ [field]: event.target.value })}
            />
          </label>
        ))}
        <label className="flex min-h-11 cursor-pointer items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-(--action)"
            checked={row.hidden}
            onChange={(event) => change({ hidden: event.target.checked })}
          />
          Hidden
        </label>
        {!root && (
          <Button
            tone="bare"
            className="ml-auto px-2 text-sm"
            aria-label={`Take away: ${named}`}
            title="What hangs on it then hangs on what it hung on"
            onClick={remove}
          >
            Take away
          </Button>
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
