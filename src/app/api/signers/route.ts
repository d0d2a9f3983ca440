import { answer } from '@/server/answers';
import { route } from '@/server/door';
import { knownSigners } from '@/server/keys';

export const GET = route('GET /api/signers', async ({ query }) => answer(await knownSigners(query.get('of') ?? '')));
