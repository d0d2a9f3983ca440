import type { ReactNode } from 'react';

/** Rows of a list, a line between them. */
export const Rows = ({ children, label }: { readonly children: ReactNode; readonly label?: string }) => (
  <ul aria-label={label} className="mt-2 divide-y divide-line border-y border-line">
    {children}
  </ul>
);

/** A row: what it is, more of it below, and what can be done at its end. */
export const Row = ({ title, more, children }: { readonly title: ReactNode; readonly more?: ReactNode; readonly children?: ReactNode }) => (
  <li className="flex min-h-14 flex-wrap items-center justify-between gap-x-6 gap-y-1 py-2">
    <span className="min-w-0 flex-1 basis-56">
      {title}
      {more !== undefined && <span className="block text-sm text-quiet">{more}</span>}
    </span>
    {children !== undefined && <span className="flex shrink-0 items-center gap-3">{children}</span>}
  </li>
);
