import { route } from '@/server/door';
import { readByTag } from '@/server/tags';

export const POST = route('POST /api/tag/[code]', ({ params, body }) => readByTag(params.code, body));
