import { makeToken } from '@/server/api-tokens';
import { route } from '@/server/door';

export const POST = route('POST /api/tokens', ({ actor, body }) => makeToken(actor, body));
