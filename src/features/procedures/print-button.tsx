'use client';

import { Button } from '@/ui/button';

export const PrintButton = () => (
  <Button tone="quiet" onClick={() => window.print()}>
    Print it
  </Button>
);
