import type { ReactNode } from 'react';
import { heading } from '@/ui/classes';
import { FirstScreen } from '@/ui/first-screen';

const widths = { narrow: 'max-w-xl', wide: 'max-w-5xl', whole: 'max-w-6xl' } as const;

/** Every page: where one is, what this is, what can be done with it as a whole, and what it shows. */
export function Page({
  trail,
  title,
  line,
  actions,
  signal,
  width = 'wide',
  children,
}: {
  /** The places that it lies in. */
  readonly trail?: ReactNode;
  readonly title: ReactNode;
  /** A sentence under it. */
  readonly line?: ReactNode;
  readonly actions?: ReactNode;
  readonly signal?: ReactNode;
  readonly width?: keyof typeof widths;
  readonly children?: ReactNode;
}) {
  return (
    <main className={`mx-auto ${widths[width]} px-4 py-4 lg:px-8`}>
      <header className="mb-5 flex flex-wrap items-start justify-between gap-x-6 gap-y-1">
        {(trail !== undefined || signal !== undefined) && (
          <div className="flex w-full items-start justify-between gap-4 text-sm text-quiet">
            <p className="min-w-0">{trail}</p>
            {signal}
          </div>
        )}
        <div className="min-w-0">
          <h1 className={heading}>{title}</h1>
          {line !== undefined && <p className="text-quiet">{line}</p>}
        </div>
        {actions !== undefined && <div className="flex flex-wrap items-center gap-3">{actions}</div>}
      </header>
      {children}
      <FirstScreen />
    </main>
  );
}

/** A page that has nothing to show, and says where to go on. */
export const Absent = ({ title, children, back }: { readonly title: string; readonly children: ReactNode; readonly back: ReactNode }) => (
  <Page title={title} width="narrow">
    <p className="text-quiet">{children}</p>
    <p className="mt-4">{back}</p>
  </Page>
);
