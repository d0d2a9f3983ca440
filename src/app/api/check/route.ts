import { answer } from '@/server/answers';
import { checkFile } from '@/server/checking';
import { route } from '@/server/door';

/** Checks a file that anyone holds; no account. */
export const POST = route('POST /api/check', async ({ body }) => {
  const result = await checkFile(body);
  return result.ok ? answer(result.value) : result;
});
