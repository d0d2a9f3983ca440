import { asc, eq, isNull } from 'drizzle-orm';
import sharp from 'sharp';
import { boolean, object, string } from 'yup';
import { paperLocales } from '@/core/record';
import { withFirm } from '@/db/connection';
import { firm, firmLogo, person } from '@/db/schema';
import { type Actor, refusedTo } from './actor';
import { type Answer, answer, notFound, refuse } from './answers';
import { nowDate } from './clock';
import { checked } from './forms';
import { sha256Of } from './hash';
import { isZone } from './zones';

export const addFirm = (id: string, name: string, emergencyNumber: string): Promise<void> =>
  withFirm(id, async (tx) => {
    await tx.insert(firm).values({ id, name, emergencyNumber });
  });

export const readFirm = (firmId: string) =>
  withFirm(firmId, async (tx) => {
    const [found] = await tx
      .select({ id: firm.id, name: firm.name, emergencyNumber: firm.emergencyNumber })
      .from(firm)
      .where(eq(firm.id, firmId));
    return found;
  });

/** Everything that the firm states of itself. */
export const readFirmSettings = (actor: Actor) =>
  withFirm(actor.firmId, async (tx) => {
    const [found] = await tx.select().from(firm).where(eq(firm.id, actor.firmId));
    const { lastCertificate: _, lastSeal: __, ...settings } = found;
    return settings;
  });

const short = (most: number) => string().trim().max(most, `Keep it under ${most} characters.`).default('');

const firmForm = object({
  name: string().trim().required('Write the firm’s name.').max(120, 'Keep the name under 120 characters.'),
  address: short(300),
  registration: short(80),
  emergencyNumber: string()
    .trim()
    .required('Write the number to ring when gas is smelt or water runs.')
    .max(80, 'Keep it under 80 characters.'),
  supplierNumber: short(80),
  mail: string()
    .trim()
    .max(200, 'Keep the address under 200 characters.')
    .matches(/^$|^[^\s@<>"]+@[^\s@<>"]+\.[^\s@<>"]+$/, 'This is no mail address: it looks like name@place.example.')
    .default(''),
  zone: string()
    .trim()
    .required('Choose the zone of the office.')
    .test('zone', 'There is no zone of this name. Write it as Continent/City, or UTC.', (text) => isZone(text ?? '')),
  locale: string().oneOf(paperLocales, 'Choose how dates are written.').required('Choose how dates are written.'),
  sheet: string()
    .oneOf(['A4', 'letter'] as const, 'Choose the sheet.')
    .required('Choose the sheet.'),
  countersign: boolean().default(false),
});

/** Keeps what the firm states of itself: it stands on every paper that is sealed from now on, and on none before. */
export async function saveFirm(actor: Actor, form: unknown): Promise<Answer<'kept'>> {
  const refused = refusedTo(actor, 'set firm');
  if (refused !== undefined) return refused;
  const input = await checked(firmForm, form);
  if (!input.ok) return input;
  return withFirm(actor.firmId, async (tx) => {
    await tx.update(firm).set(input.value).where(eq(firm.id, actor.firmId));
    return answer('kept');
  });
}

/** As papers carry it: small, on white, and without whatever else a file may hide. */
async function asLogo(sent: Buffer): Promise<Buffer | undefined> {
  try {
    const opened = sharp(sent, { limitInputPixels: 40_000_000 });
    if (!['jpeg', 'png', 'webp'].includes((await opened.metadata()).format ?? '')) return undefined;
    return await opened
      .rotate()
      .flatten({ background: '#ffffff' })
      .resize(480, 360, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 88 })
      .toBuffer();
  } catch {
    return undefined;
  }
}

/** Keeps the firm's logo; nothing sent takes it off again. */
export async function saveLogo(actor: Actor, sent: Buffer): Promise<Answer<{ readonly logo: string }>> {
  const refused = refusedTo(actor, 'set firm');
  if (refused !== undefined) return refused;
  const picture = sent.length === 0 ? undefined : await asLogo(sent);
  if (sent.length > 0 && picture === undefined)
    return refuse(400, 'logo-unreadable', 'This file is not a picture that can be read. Use a JPEG, PNG or WebP.');
  const logo = picture === undefined ? '' : sha256Of(picture);
  return withFirm(actor.firmId, async (tx) => {
    if (picture !== undefined)
      await tx.insert(firmLogo).values({ firmId: actor.firmId, hash: logo, picture, addedAt: nowDate() }).onConflictDoNothing();
    await tx.update(firm).set({ logo }).where(eq(firm.id, actor.firmId));
    return answer({ logo });
  });
}

/** Everybody who works for the firm, by name. */
export const listPeople = (firmId: string) =>
  withFirm(firmId, (tx) =>
    tx
      .select({ id: person.id, name: person.name, role: person.role, licence: person.licence })
      .from(person)
      .where(isNull(person.putAwayAt))
      .orderBy(asc(person.name)),
  );

const licenceForm = object({ licence: short(80) });

/** Keeps the number of the licence that a person works under. */
export async function saveLicence(actor: Actor, personId: string, form: unknown): Promise<Answer<'kept'>> {
  const refused = refusedTo(actor, 'set firm');
  if (refused !== undefined) return refused;
  const input = await checked(licenceForm, form);
  if (!input.ok) return input;
  return withFirm(actor.firmId, async (tx) => {
    const kept = await tx.update(person).set({ licence: input.value.licence }).where(eq(person.id, personId)).returning({ id: person.id });
    return kept.length === 0 ? notFound : answer('kept');
  });
}
