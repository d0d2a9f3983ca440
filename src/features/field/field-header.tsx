import { heading } from '@/ui/classes';
import { SignalLine } from './field';

/** Top of a field screen: where one is, what this is, and how the signal is. */
export function FieldHeader({
  place,
  title,
  children,
}: {
  readonly place: string;
  readonly title: string;
  readonly children?: React.ReactNode;
}) {
  return (
    <header className="mb-5 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
      <div>
        <p className="text-sm text-quiet">
          <a href="/today" className="underline">
            Today
          </a>{' '}
          · {place}
        </p>
        <h1 className={heading}>{title}</h1>
        {children}
      </div>
      <SignalLine />
    </header>
  );
}
