import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** A dialog that rises from the foot of a phone and stands in the middle of a desk's screen. */
export function SheetDialog({
  title,
  close,
  children,
}: {
  readonly title: string;
  readonly close: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-20 max-h-[92dvh] overflow-y-auto border-t-4 border-action bg-ground p-4 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-24 sm:w-[31rem] sm:-translate-x-1/2 sm:border sm:border-t-4"
        >
          <div className="mb-3 flex items-center justify-between">
            <Dialog.Title className="text-xl font-semibold">{title}</Dialog.Title>
            <Dialog.Close className="min-h-12 min-w-12 font-medium underline">Close</Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
