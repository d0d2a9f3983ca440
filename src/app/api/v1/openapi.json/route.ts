import { answer } from '@/server/answers';
import { route } from '@/server/door';
import { openApi } from '@/server/read-api';

export const GET = route('GET /api/v1/openapi.json', async () => answer(openApi()));
