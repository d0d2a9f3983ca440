import { route } from '@/server/door';
import { readList } from '@/server/read-api';

export const GET = route('GET /api/v1/[list]', ({ actor, params, query }) => readList(actor, params.list, query));
