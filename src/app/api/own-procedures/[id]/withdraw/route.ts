import { route } from '@/server/door';
import { withdrawOwnProcedure } from '@/server/rules';

export const POST = route('POST /api/own-procedures/[id]/withdraw', ({ actor, params }) => withdrawOwnProcedure(actor, params.id));
