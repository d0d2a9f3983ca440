import { and, eq, lt } from 'drizzle-orm';
import { canonical, type Json, sha256 } from '@/core/exact';
import { together } from '@/db/connection';
import { command } from '@/db/schema';
import type { Actor } from './actor';
import { type Answer, answer, refuse } from './answers';
import { now, nowDate } from './clock';

/** Carries the id that a client made for what it asks; a retry carries it again. */
export const commandHeader = 'command-id';

/** Taken back, so that nothing of a refused command stays, and no later retry is told of it. */
class Refused extends Error {
  constructor(readonly result: Answer<never>) {
    super('refused');
  }
}

/**
 * Does a command once. The same id again gets the first answer and changes nothing; the same id with other content is refused,
 * for one of the two was not done. What is refused leaves nothing behind.
 * @param id a UUID that the client made
 * @param content what was asked, whole
 * @param isSecret what it answers opens something: it is told once, and a retry is told that it was
 */
export async function once<T>(
  actor: Actor,
  id: string,
  content: Json,
  work: () => Promise<Answer<T>>,
  isSecret = false,
): Promise<Answer<T>> {
  const hash = sha256(canonical(content));
  try {
    return await together(actor.firmId, async (tx) => {
      const [first] = await tx
        .insert(command)
        .values({ firmId: actor.firmId, id, author: actor.userId, content: hash, at: nowDate() })
        .onConflictDoNothing()
        .returning({ id: command.id });
      if (first === undefined) {
        const [done] = await tx.select().from(command).where(eq(command.id, id));
        const isSame = done?.content === hash && done.author === actor.userId;
        if (isSame && isSecret)
          return refuse(409, 'told-once', 'This was made, and what opens it was told once. If it did not reach you, make another.');
        return isSame
          ? answer((done.answer ?? null) as T)
          : refuse(409, 'command-differs', 'This was sent before with other content. Look at what is there now, then send it anew.');
      }
      const result = await work();
      if (!result.ok) throw new Refused(result);
      await tx
        .update(command)
        .set({ answer: isSecret ? null : (result.value ?? null) })
        .where(and(eq(command.id, id)));
      return result;
    });
  } catch (error) {
    if (error instanceof Refused) return error.result;
    throw error;
  }
}

const keptMs = 14 * 86_400_000;

/** Forgets commands that nobody retries any more. */
export const forgetOldCommands = (firmId: string): Promise<void> =>
  together(firmId, async (tx) => {
    await tx.delete(command).where(lt(command.at, new Date(now() - keptMs)));
  });
