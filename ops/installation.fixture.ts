import { type ChildProcess, execFile, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/* An installation of its own for a test, with the real commands. */

export const root = join(import.meta.dirname, '..');

export const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

export interface Started {
  readonly child: ChildProcess;
  readonly port: number;
  /** Set where it ended by itself. */
  readonly code?: number;
  readonly said: () => string;
  readonly end: () => Promise<void>;
}

export function installation(label: string) {
  const place = mkdtempSync(join(process.getuid?.() === 0 ? '/var/lib' : tmpdir(), `vast-stone-${label}-`));
  // The database's own user must get through.
  chmodSync(place, 0o711);
  const home = join(place, 'home');
  const children: ChildProcess[] = [];

  /** Nothing of the test's own database reaches the commands. */
  const environment = (more: Record<string, string> = {}): NodeJS.ProcessEnv => {
    const own = Object.fromEntries(Object.entries(process.env).filter(([name]) => !/^VAST_|^DB|^PGBIN$|^NODE_OPTIONS$/.test(name)));
    return { ...own, VAST_HOME: home, NEXT_DIST: '.next-test', ...more } as NodeJS.ProcessEnv;
  };

  const run = (line: string, more: Record<string, string> = {}): Promise<{ readonly code: number; readonly said: string }> =>
    new Promise((resolve) =>
      execFile('bash', ['-c', line], { cwd: root, env: environment(more), maxBuffer: 10_000_000 }, (failure, out, error) =>
        resolve({ code: failure === null ? 0 : Number(failure.code ?? 1), said: `${out}${error}` }),
      ),
    );

  /** `./start`, until it serves or ends. */
  async function start(more: Record<string, string> = {}, options: readonly string[] = ['--empty']): Promise<Started> {
    const port = more.PORT === undefined ? await freePort() : Number(more.PORT);
    const child = spawn('./start', options, { cwd: root, env: environment({ PORT: String(port), ...more }) });
    children.push(child);
    let text = '';
    for (const stream of [child.stdout, child.stderr])
      stream?.on('data', (part) => {
        text += part;
      });
    const code = await new Promise<number | undefined>((resolve) => {
      child.once('close', (ended) => resolve(ended ?? 1));
      child.stdout?.on('data', () => {
        if (text.includes('Ctrl-C stops it')) resolve(undefined);
      });
    });
    const end = () =>
      new Promise<void>((resolve) => {
        if (child.exitCode !== null) return resolve();
        child.once('close', () => resolve());
        child.kill('SIGTERM');
      });
    return { child, port, said: () => text, end, code };
  }

  async function close(): Promise<void> {
    for (const child of children) {
      if (child.exitCode !== null) continue;
      const over = new Promise((resolve) => child.once('close', resolve));
      child.kill('SIGTERM');
      await over;
    }
    rmSync(place, { recursive: true, force: true });
  }

  return { place, home, run, start, close };
}
