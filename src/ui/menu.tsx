'use client';

import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

export interface MenuItem {
  readonly label: string;
  readonly do?: () => void;
  /** A place that it leads to. */
  readonly href?: string;
  readonly disabled?: boolean;
}

const row = 'flex min-h-12 cursor-pointer items-center px-4 outline-none data-disabled:opacity-50 data-highlighted:bg-sunken';

/** Further actions behind one button. */
export function Menu({
  children,
  items,
  label,
}: {
  readonly children: ReactNode;
  readonly items: readonly MenuItem[];
  readonly label: string;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild aria-label={label}>
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="z-40 min-w-56 border border-ink bg-surface shadow-lg">
          {items.map(({ label: words, do: act, href, disabled }) =>
            href === undefined ? (
              <DropdownMenu.Item key={words} className={row} disabled={disabled} onSelect={act}>
                {words}
              </DropdownMenu.Item>
            ) : (
              <DropdownMenu.Item key={words} className={row} asChild>
                <a href={href}>{words}</a>
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
