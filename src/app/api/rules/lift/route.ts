import { route } from '@/server/door';
import { liftHouseRule } from '@/server/rules';

export const POST = route('POST /api/rules/lift', ({ actor, body }) => liftHouseRule(actor, body));
