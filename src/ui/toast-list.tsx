'use client';

import { Toast } from 'radix-ui';
import { Button } from './button';
import type { Toasted } from './toasts';

/** What was just done, each to be taken back while it is said. */
export function ToastList({ said, gone }: { readonly said: readonly Toasted[]; readonly gone: (id: number) => void }) {
  return (
    <Toast.Provider duration={9000} swipeDirection="up">
      {said.map(({ id, text, undo }) => (
        <Toast.Root
          key={id}
          onOpenChange={(open) => !open && gone(id)}
          className="flex items-center justify-between gap-3 border border-ink bg-ground px-4 py-1 shadow-lg"
        >
          <Toast.Description>{text}</Toast.Description>
          {undo !== undefined && (
            <Toast.Action altText="Take it back" asChild>
              <Button tone="bare" size="tall" className="px-2 font-semibold" onClick={undo}>
                Take it back
              </Button>
            </Toast.Action>
          )}
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed inset-x-0 top-2 z-50 mx-auto flex max-w-md flex-col gap-2 px-3 lg:bottom-6 lg:left-auto lg:right-6 lg:top-auto lg:mx-0" />
    </Toast.Provider>
  );
}
