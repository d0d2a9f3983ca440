'use client';

import dynamic from 'next/dynamic';
import { createContext, type ReactNode, useCallback, useContext, useState } from 'react';

export interface Toasted {
  readonly id: number;
  readonly text: string;
  readonly undo?: () => void;
}

const ToastContext = createContext<(text: string, undo?: () => void) => void>(() => undefined);

/** Says what was done, and offers to take it back: in place of asking before. */
export const useToast = () => useContext(ToastContext);

// Nothing is said on most pages: what says it comes with the first thing that is.
const ToastList = dynamic(() => import('./toast-list').then((module) => module.ToastList), { ssr: false });

let count = 0;

export function Toasts({ children }: { readonly children: ReactNode }) {
  const [said, setSaid] = useState<readonly Toasted[]>([]);
  const say = useCallback((text: string, undo?: () => void) => {
    count += 1;
    setSaid((last) => [...last.slice(-2), { id: count, text, undo }]);
  }, []);
  const gone = useCallback((id: number) => setSaid((last) => last.filter((one) => one.id !== id)), []);
  return (
    <ToastContext value={say}>
      {children}
      {said.length > 0 && <ToastList said={said} gone={gone} />}
    </ToastContext>
  );
}
