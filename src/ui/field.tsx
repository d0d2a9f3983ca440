import type { Problem } from '@/core/quantities';

/** A question with its help, or what is wrong with the answer. */
export function Field({
  id,
  label,
  help,
  problem,
  children,
}: {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  readonly problem?: Problem;
  readonly children: React.ReactNode;
}) {
  return (
    <div>
      <label htmlFor={id} className="font-medium">
        {label}
      </label>
      <div className="mt-1">{children}</div>
      {problem === undefined ? (
        <p className="mt-1 text-sm text-quiet">{help}</p>
      ) : (
        <p className="mt-1 text-sm font-medium text-stop" role="alert">
          {problem.message}
        </p>
      )}
    </div>
  );
}
