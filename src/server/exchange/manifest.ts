import { sha256 } from '@/core/exact';

/* The first thing that is read of an export: what is in it, and by whom it was made. */

export const format = 'vast-stone-firm';
/** Counted up when an older program could not read what a newer one writes. */
export const formatVersion = 1;

export interface Manifest {
  readonly format: typeof format;
  readonly version: number;
  readonly madeAt: string;
  readonly firm: string;
  readonly tables: Readonly<Record<string, { readonly rows: number; readonly sha256: string }>>;
  /** Tables that stay where they are, and why. */
  readonly leftOut: Readonly<Record<string, string>>;
  readonly papers: 'as PDF too' | 'as records only';
}

/** Beside the manifest: the firm's seal over it. */
export interface Signed {
  readonly publicKey: string;
  readonly signature: string;
}

export const signedText = (manifest: string): string => `${format} ${formatVersion} ${sha256(manifest)}`;

/** What ends an export or an import, in words for whoever began it. */
export class ExchangeFault extends Error {}

/** @throws ExchangeFault where this is no export that this program reads */
export function readManifest(text: string): Manifest {
  let said: Partial<Manifest>;
  try {
    said = JSON.parse(text) as Partial<Manifest>;
  } catch {
    throw new ExchangeFault('manifest.json in this file cannot be read. Make the export again.');
  }
  if (said?.format !== format) throw new ExchangeFault('This is a zip, but no export of a firm from Vast Stone.');
  if (typeof said.version !== 'number' || said.version > formatVersion)
    throw new ExchangeFault(
      `This export was made by a newer version (format ${String(said.version)}; this one reads up to ${formatVersion}). Update this installation first, then import it.`,
    );
  if (typeof said.tables !== 'object' || said.tables === null)
    throw new ExchangeFault('manifest.json names no tables. Make the export again.');
  return said as Manifest;
}
