import type { Actor } from './actor';
import type { Answer } from './answers';
import { readCertificate } from './certificates';
import { download } from './door';
import { pagesOf } from './papers';

/* A sealed paper as files. */

/** Its pages. */
export async function paperFile(actor: Actor, id: string, inline = false): Promise<Answer<never> | Response> {
  const found = await readCertificate(actor, id);
  if (!found.ok) return found;
  const pages = await pagesOf(actor.firmId, found.value.parsed);
  return pages.ok ? download(pages.value, 'application/pdf', `certificate-${found.value.number}.pdf`, inline) : pages;
}

/** Its record, letter for letter as it was sealed. */
export async function recordFile(actor: Actor, id: string): Promise<Answer<never> | Response> {
  const found = await readCertificate(actor, id);
  return found.ok ? download(found.value.record, 'application/json', `certificate-${found.value.number}.json`) : found;
}
