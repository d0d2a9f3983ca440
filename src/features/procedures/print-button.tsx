'use client';

import { quietButton } from '@/ui/classes';

export const PrintButton = () => (
  <button type="button" className={quietButton} onClick={() => window.print()}>
    Print it
  </button>
);
