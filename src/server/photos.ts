import { and, eq } from 'drizzle-orm';
import sharp from 'sharp';
import { withFirm } from '@/db/connection';
import { photo } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { ownsRun, sha256Of } from './tests';

const largest = 15 * 1024 * 1024;
const formats: readonly string[] = ['jpeg', 'png', 'webp'];
const unreadable = refuse(400, 'photo-unreadable', 'This file is not a picture that can be read. Use a JPEG, PNG or WebP.');

/**
 * Keeps a photograph: re-encoded (which drops the location and whatever else a file may hide), at most 1600 px, under
 * the hash of what the device sent, so that its event finds it. The same picture twice in a run is one.
 */
export async function addPhoto(actor: Actor, runId: string, takenAt: number, sent: Buffer): Promise<Answer<{ hash: string }>> {
  const refused = refusedTo(actor, 'run tests');
  if (refused !== undefined) return refused;
  if (!isUuid(runId)) return notFound;
  if (sent.length > largest) return refuse(413, 'photo-too-large', 'The picture is larger than 15 MB. Take it at a lower resolution.');
  if (!(Number.isSafeInteger(takenAt) && takenAt > 0 && takenAt < now() + 86_400_000))
    return refuse(400, 'photo-time', 'The picture has no capture time that can be.');
  let picture: Buffer;
  try {
    const opened = sharp(sent, { limitInputPixels: 80_000_000 });
    // A drawing or a film is no photograph, whatever its name says.
    if (!formats.includes((await opened.metadata()).format ?? '')) return unreadable;
    picture = await opened.rotate().resize(1600, 1600, { fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 82 }).toBuffer();
  } catch {
    return unreadable;
  }
  return withFirm(actor.firmId, async (tx) => {
    const [owner] = await ownsRun(tx, runId);
    if (owner === undefined) return notFound;
    const hash = sha256Of(sent);
    await tx
      .insert(photo)
      .values({
        firmId: actor.firmId,
        hash,
        storedHash: sha256Of(picture),
        runId,
        picture,
        takenAt: new Date(takenAt),
        receivedAt: nowDate(),
      })
      .onConflictDoNothing();
    return answer({ hash });
  });
}

export async function readPhoto(actor: Actor, hash: string): Promise<Answer<Buffer>> {
  if (!/^[0-9a-f]{64}$/.test(hash)) return notFound;
  return withFirm(actor.firmId, async (tx) => {
    const [found] = await tx
      .select({ picture: photo.picture })
      .from(photo)
      .where(and(eq(photo.hash, hash)));
    return found === undefined ? notFound : answer(found.picture);
  });
}
