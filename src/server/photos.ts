import { and, asc, eq, sql } from 'drizzle-orm';
import sharp from 'sharp';
import { withFirm } from '@/db/connection';
import { firmLogo, photo, photoPiece } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, isUuid, notFound, refuse } from './answers';
import { now, nowDate } from './clock';
import { sha256Of } from './hash';
import { ownsRun } from './tests';

const largest = 15 * 1024 * 1024;
/** A paper shows pictures a third of a page wide: so many pixels are all that is seen, and twenty of them are no heavy file. */
const copySide = 800;
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
  let copy: Buffer;
  try {
    const opened = sharp(sent, { limitInputPixels: 80_000_000 });
    // A drawing or a film is no photograph, whatever its name says.
    if (!formats.includes((await opened.metadata()).format ?? '')) return unreadable;
    picture = await opened.rotate().resize(1600, 1600, { fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 82 }).toBuffer();
    copy = await sharp(picture).resize(copySide, copySide, { fit: 'inside', withoutEnlargement: true }).jpeg({ quality: 70 }).toBuffer();
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
        copyHash: sha256Of(copy),
        copy,
        takenAt: new Date(takenAt),
        receivedAt: nowDate(),
      })
      .onConflictDoNothing();
    return answer({ hash });
  });
}

export interface Piece {
  readonly runId: string;
  readonly takenAt: number;
  /** SHA-256 of the whole picture as the device has it, and its length. */
  readonly hash: string;
  readonly size: number;
  /** Where this piece begins. */
  readonly at: number;
}

/**
 * Takes a piece of a picture, in order, and says how much of it is here; the last one makes it whole. An empty piece only asks.
 * A piece that was sent before, or that does not follow, changes nothing.
 */
export async function addPiece(
  actor: Actor,
  { runId, takenAt, hash, size, at }: Piece,
  sent: Buffer,
): Promise<Answer<{ readonly have: number }>> {
  const refused = refusedTo(actor, 'run tests');
  if (refused !== undefined) return refused;
  if (!isUuid(runId) || !/^[0-9a-f]{64}$/.test(hash)) return notFound;
  if (!(Number.isInteger(size) && size > 0 && size <= largest))
    return refuse(413, 'photo-too-large', 'The picture is larger than 15 MB. Take it at a lower resolution.');
  if (!(Number.isInteger(at) && at >= 0 && at <= size)) return refuse(400, 'photo-piece', 'This piece lies outside its picture.');
  const of = and(eq(photoPiece.runId, runId), eq(photoPiece.hash, hash));
  const here = await withFirm(actor.firmId, async (tx): Promise<Answer<{ readonly have: number; readonly whole?: Buffer }>> => {
    const [owner] = await ownsRun(tx, runId);
    if (owner === undefined) return notFound;
    const [kept] = await tx
      .select({ hash: photo.hash })
      .from(photo)
      .where(and(eq(photo.runId, runId), eq(photo.hash, hash)));
    if (kept !== undefined) return answer({ have: size });
    // Pieces of one picture come one after the other, whoever sends them.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${runId} ${hash}`}, 2))`);
    const [{ have }] = await tx
      .select({ have: sql<number>`coalesce(sum(length(${photoPiece.piece})), 0)::int` })
      .from(photoPiece)
      .where(of);
    if (sent.length === 0 || at !== have) return answer({ have });
    if (have + sent.length > size) return refuse(400, 'photo-piece', 'This piece lies outside its picture.');
    if (have + sent.length < size) {
      await tx.insert(photoPiece).values({ firmId: actor.firmId, runId, hash, at, piece: sent, receivedAt: nowDate() });
      return answer({ have: have + sent.length });
    }
    const before = await tx.select({ piece: photoPiece.piece }).from(photoPiece).where(of).orderBy(asc(photoPiece.at));
    return answer({ have, whole: Buffer.concat([...before.map(({ piece }) => piece), sent]) });
  });
  if (!here.ok) return here;
  const { whole, have } = here.value;
  if (whole === undefined) return answer({ have });
  const done =
    sha256Of(whole) === hash
      ? await addPhoto(actor, runId, takenAt, whole)
      : refuse(400, 'photo-other', 'What arrived is not the picture that was named.');
  // Whole, or never to be: its pieces are of no more use.
  if (done.ok || done.status === 400) await withFirm(actor.firmId, (tx) => tx.delete(photoPiece).where(of));
  return done.ok ? answer({ have: size }) : done;
}

/** A photograph by the hash of what was sent, or a paper's copy or a logo by its own. */
export const readPhoto = (actor: Actor, hash: string): Promise<Answer<Buffer>> => pictureIn(actor.firmId, hash);

/** The same for whoever is let in by something else than an account. */
export async function pictureIn(firmId: string, hash: string): Promise<Answer<Buffer>> {
  if (!/^[0-9a-f]{64}$/.test(hash)) return notFound;
  return withFirm(firmId, async (tx) => {
    const [found] = await tx.select({ picture: photo.picture }).from(photo).where(eq(photo.hash, hash));
    if (found !== undefined) return answer(found.picture);
    const [copy] = await tx.select({ picture: photo.copy }).from(photo).where(eq(photo.copyHash, hash));
    if (copy !== undefined) return answer(copy.picture);
    const [logo] = await tx.select({ picture: firmLogo.picture }).from(firmLogo).where(eq(firmLogo.hash, hash));
    return logo === undefined ? notFound : answer(logo.picture);
  });
}
