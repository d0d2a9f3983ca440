import { takeAlong } from '@/server/along';
import { deviceOf } from '@/server/auth';
import { route } from '@/server/door';

export const POST = route('POST /api/field/along', ({ actor, body, request }) => takeAlong(actor, body, deviceOf(request.headers)));
