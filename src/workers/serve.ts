import * as check from '@/app/api/check/route';
import * as run from '@/app/api/field/run/[id]/route';
import * as sync from '@/app/api/field/sync/route';
import * as health from '@/app/api/health/route';
import * as signIn from '@/app/api/sign-in/route';
import * as stream from '@/app/api/stream/route';
import { serve } from '@/server/front';
import { hotRoutes } from '@/server/hot';
import { startMail } from '@/server/mail-worker';
import { prepareReaders } from '@/server/reader';

/** What devices ask every second, what must answer also while pages are busy, and what strangers may ask as often as they like. */
const hot = hotRoutes([
  { method: 'POST', path: '/api/field/sync', handler: sync.POST },
  { method: 'GET', path: '/api/field/run/[id]', handler: run.GET },
  { method: 'GET', path: '/api/health', handler: health.GET },
  { method: 'GET', path: '/api/stream', handler: stream.GET },
  { method: 'POST', path: '/api/sign-in', handler: signIn.POST },
  { method: 'POST', path: '/api/check', handler: check.POST },
]);

prepareReaders();
startMail();
await serve(process.argv.includes('--dev'), hot);
