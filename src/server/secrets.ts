import { createHmac } from 'node:crypto';
import { setting } from './environment';

/**
 * Tells whether the secrets at hand are those that a database was made with, and tells nothing of them: a keyed hash of a fixed
 * word, kept in the installation's mark.
 */
export const secretsMark = (): string =>
  createHmac('sha256', `${setting('VAST_SEAL_SECRET')} ${setting('VAST_AUTH_SECRET')}`)
    .update('vast-stone installation')
    .digest('hex');
