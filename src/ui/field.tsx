import type { ReactNode } from 'react';
import type { Problem } from '@/core/quantities';
import { Fault } from './fault';

/** A question with its help, or what is wrong with the answer. */
export function Field({
  id,
  label,
  help,
  problem,
  group = false,
  large = false,
  children,
}: {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  readonly problem?: Problem;
  /** Its answers stand side by side: the label is theirs together, and no single field's. */
  readonly group?: boolean;
  readonly large?: boolean;
  readonly children: ReactNode;
}) {
  const looks = large ? 'text-lg font-semibold' : 'font-medium';
  return (
    <div>
      {group ? (
        <span id={`${id}-label`} className={looks}>
          {label}
        </span>
      ) : (
        <label htmlFor={id} id={`${id}-label`} className={looks}>
          {label}
        </label>
      )}
      <div className="mt-1">{children}</div>
      {problem === undefined ? (
        help !== '' && (
          <p id={`${id}-help`} className="mt-0.5 text-sm leading-snug text-quiet">
            {help}
          </p>
        )
      ) : (
        <Fault id={`${id}-help`} of={problem} />
      )}
    </div>
  );
}
