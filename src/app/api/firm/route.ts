import { route } from '@/server/door';
import { saveFirm } from '@/server/firms';

export const POST = route('POST /api/firm', ({ actor, body }) => saveFirm(actor, body));
