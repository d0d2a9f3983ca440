import { endToken } from '@/server/api-tokens';
import { route } from '@/server/door';

export const POST = route('POST /api/tokens/[id]/end', ({ actor, params }) => endToken(actor, params.id));
