import { route } from '@/server/door';
import { retryMessage } from '@/server/mail';

export const POST = route('POST /api/messages/[id]/retry', ({ actor, params }) => retryMessage(actor, params.id));
