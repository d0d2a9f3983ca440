import { route } from '@/server/door';
import { readKit } from '@/server/field';

export const GET = route('GET /api/field/kit', ({ actor }) => readKit(actor));
