import { answer } from '@/server/answers';
import { route } from '@/server/door';
import { listRunning } from '@/server/field';

export const GET = route('GET /api/running', async ({ actor }) => answer(await listRunning(actor.firmId)));
