'use client';

import { useSyncExternalStore } from 'react';
import { today } from './use-ground';

const never = () => () => undefined;
const unknown = (): undefined => undefined;

/**
 * The reader's own date. A page that the server writes does not know it, and must not say another one: there it is undefined until the
 * browser has the page.
 */
export const useToday = (): string | undefined => useSyncExternalStore(never, today, unknown);
