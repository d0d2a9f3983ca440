import { route } from '@/server/door';
import { takeSheet } from '@/server/sheets';

export const POST = route('POST /api/sheets', ({ actor, body }) => takeSheet(actor, body));
