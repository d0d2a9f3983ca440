import { route } from '@/server/door';
import { addInstrument } from '@/server/instruments';

export const POST = route('POST /api/instruments', ({ actor, body }) => addInstrument(actor, body));
