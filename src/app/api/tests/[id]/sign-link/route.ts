import { route } from '@/server/door';
import { makeSignLink } from '@/server/sign-links';

export const POST = route('POST /api/tests/[id]/sign-link', ({ actor, params, body }) => makeSignLink(actor, params.id, body));
