import { route } from '@/server/door';
import { sendPaper } from '@/server/mail';

export const POST = route('POST /api/certificates/[id]/send', ({ actor, params, body }) => sendPaper(actor, params.id, body));
