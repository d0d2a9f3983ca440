'use client';

import { ChevronRight } from 'lucide-react';
import { Collapsible } from 'radix-ui';
import { type ReactNode, useState } from 'react';

/** What is shown only where somebody asks for it. */
export function Disclosure({
  title,
  open: first = false,
  shown,
  show,
  shortcut,
  look = 'text-quiet underline underline-offset-4',
  className = '',
  children,
}: {
  readonly title: ReactNode;
  readonly open?: boolean;
  /** Whether it is open, where somebody else decides that too. */
  readonly shown?: boolean;
  readonly show?: (open: boolean) => void;
  readonly shortcut?: string;
  readonly look?: string;
  readonly className?: string;
  readonly children: ReactNode;
}) {
  const [open, setOpen] = useState(first);
  return (
    <Collapsible.Root open={shown ?? open} onOpenChange={show ?? setOpen} className={className}>
      <Collapsible.Trigger aria-keyshortcuts={shortcut} className={`group inline-flex min-h-11 items-center gap-1 text-left ${look}`}>
        <ChevronRight aria-hidden className="size-4 shrink-0 transition-transform group-data-[state=open]:rotate-90" />
        <span>{title}</span>
      </Collapsible.Trigger>
      <Collapsible.Content className="pt-1">{children}</Collapsible.Content>
    </Collapsible.Root>
  );
}
