'use client';

import { useState } from 'react';
import type { Part } from '@/core/course';
import type { Plan } from '@/core/planning';
import { quietButton } from '@/ui/classes';

/** Which part of a plan is looked at, the one that is judged first unless another was pressed; and the choice, where there is one. */
export function usePart({ sight }: Pick<Plan, 'sight'>): { readonly part: Part | undefined; readonly choice: React.ReactNode } {
  const [what, setWhat] = useState('');
  const part = sight.find((one) => one.what === what) ?? sight[0];
  const choice =
    sight.length < 2 ? null : (
      <div role="radiogroup" aria-label="Part that is looked at" className="flex flex-wrap gap-2">
        {sight.map((one) => (
          <label
            key={one.what}
            className={`${quietButton} !min-h-10 cursor-pointer has-checked:border-2 has-checked:border-action has-checked:font-semibold has-focus-visible:outline-2`}
          >
            <input type="radio" className="sr-only" checked={one === part} onChange={() => setWhat(one.what)} />
            <span className="first-letter:uppercase">{one.what}</span>
          </label>
        ))}
      </div>
    );
  return { part, choice };
}
