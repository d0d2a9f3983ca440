import { route } from '@/server/door';
import { saveLogo } from '@/server/firms';

export const POST = route('POST /api/firm/logo', ({ actor, body }) => saveLogo(actor, body));
