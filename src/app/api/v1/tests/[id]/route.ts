import { route } from '@/server/door';
import { readTestRecord } from '@/server/read-api';

export const GET = route('GET /api/v1/tests/[id]', ({ actor, params }) => readTestRecord(actor, params.id));
