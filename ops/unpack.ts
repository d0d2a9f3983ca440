import { unpack } from './archive';

/** Opens a backup into a directory. */
const [file, directory] = process.argv.slice(2);
try {
  await unpack(file, directory, process.env.VAST_BACKUP_PASSPHRASE ?? '');
} catch (error) {
  console.error(`Vast Stone: ${(error as Error).message}`);
  process.exitCode = 1;
}
