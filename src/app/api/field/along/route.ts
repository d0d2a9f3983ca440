import { takeAlong } from '@/server/along';
import { route } from '@/server/door';

export const POST = route('POST /api/field/along', ({ actor, body }) => takeAlong(actor, body, actor.deviceId));
