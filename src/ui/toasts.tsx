'use client';

import { Toast } from 'radix-ui';
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from 'react';

interface Said {
  readonly id: number;
  readonly text: string;
  readonly undo?: () => void;
}

const ToastContext = createContext<(text: string, undo?: () => void) => void>(() => undefined);

/** Says what was done, and offers to take it back: in place of asking before. */
export const useToast = () => useContext(ToastContext);

let count = 0;

export function Toasts({ children }: { readonly children: ReactNode }) {
  const [said, setSaid] = useState<readonly Said[]>([]);
  const say = useCallback((text: string, undo?: () => void) => {
    count += 1;
    setSaid((last) => [...last.slice(-2), { id: count, text, undo }]);
  }, []);
  const gone = useCallback((id: number) => setSaid((last) => last.filter((one) => one.id !== id)), []);
  const provider = useMemo(() => say, [say]);
  return (
    <ToastContext value={provider}>
      <Toast.Provider duration={9000} swipeDirection="up">
        {children}
        {said.map(({ id, text, undo }) => (
          <Toast.Root
            key={id}
            onOpenChange={(open) => !open && gone(id)}
            className="flex items-center justify-between gap-3 border border-ink bg-ground px-4 py-1 shadow-lg"
          >
            <Toast.Description>{text}</Toast.Description>
            {undo !== undefined && (
              <Toast.Action altText="Take it back" asChild>
                <button type="button" className="min-h-12 px-2 font-semibold underline" onClick={undo}>
                  Take it back
                </button>
              </Toast.Action>
            )}
          </Toast.Root>
        ))}
        <Toast.Viewport className="fixed inset-x-0 top-2 z-50 mx-auto flex max-w-md flex-col gap-2 px-3 lg:bottom-6 lg:left-auto lg:right-6 lg:top-auto lg:mx-0" />
      </Toast.Provider>
    </ToastContext>
  );
}
