import * as run from '@/app/api/field/run/[id]/route';
import * as sync from '@/app/api/field/sync/route';
import * as health from '@/app/api/health/route';
import * as stream from '@/app/api/stream/route';
import { serve } from '@/server/front';
import { hotRoutes } from '@/server/hot';
import { prepareReaders } from '@/server/reader';

/** What devices ask every second, and what must answer also while pages are busy. */
const hot = hotRoutes([
  { method: 'POST', path: '/api/field/sync', handler: sync.POST },
  { method: 'GET', path: '/api/field/run/[id]', handler: run.GET },
  { method: 'GET', path: '/api/health', handler: health.GET },
  { method: 'GET', path: '/api/stream', handler: stream.GET },
]);

prepareReaders();
await serve(process.argv.includes('--dev'), hot);
