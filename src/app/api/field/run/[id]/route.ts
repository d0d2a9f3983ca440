import { route } from '@/server/door';
import { readRun } from '@/server/field';

export const GET = route('GET /api/field/run/[id]', ({ actor, params }) => readRun(actor, params.id));
