import { readFile, writeFile } from 'node:fs/promises';

/** Prints a fault where people look for it. @returns the exit code for a file or option that cannot be used */
export function fail(message: string): 2 {
  console.error(message);
  return 2;
}

export const print = (value: unknown): void => console.log(JSON.stringify(value, null, 2));

/** A file's bytes, or in words why it cannot be read. */
export async function readBytes(file: string | undefined): Promise<Buffer | string> {
  if (file === undefined) return 'Name a file.';
  try {
    return await readFile(file);
  } catch (error) {
    return `${file} cannot be read: ${(error as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : (error as Error).message}.`;
  }
}

/** Writes to a file, or to the standard output where none is named. */
export async function deliver(text: string, out: string | undefined): Promise<void> {
  if (out === undefined) process.stdout.write(text);
  else await writeFile(out, text);
}
