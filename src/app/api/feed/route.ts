import { makeFeed } from '@/server/calendar';
import { route } from '@/server/door';

export const POST = route('POST /api/feed', ({ actor }) => makeFeed(actor));
