import { type ChildProcess, spawn } from 'node:child_process';
import { Agent, request } from 'node:http';
import { createServer } from 'node:net';

/* The real server as a process of its own, and what it is asked. */

export interface Reply {
  readonly status: number;
  readonly text: string;
  readonly cookies: string;
}

const agent = new Agent({ keepAlive: true, maxSockets: Number.POSITIVE_INFINITY, scheduling: 'fifo' });
export function ask(port: number, method: string, path: string, body: string | undefined, headers: Record<string, string>): Promise<Reply> {
  return new Promise((resolve, reject) => {
    const sent = request(
      { host: '127.0.0.1', port, method, path, agent, headers: { 'content-type': 'application/json', ...headers } },
      (response) => {
        let text = '';
        response.on('data', (part) => {
          text += part;
        });
        // Killed in the middle of an answer, it never ends.
        response.on('close', () => response.complete || reject(new Error('the answer was cut off')));
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            text,
            cookies: (response.headers['set-cookie'] ?? []).map((one) => one.split(';')[0]).join('; '),
          }),
        );
      },
    );
    sent.on('error', reject);
    sent.end(body);
  });
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

export const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

export interface Server {
  readonly port: number;
  readonly process: ChildProcess;
  /** In good order, or as in a power cut. */
  readonly end: (signal?: NodeJS.Signals) => Promise<void>;
}

/** Starts the built server on the database of the environment and waits until it is ready. */
export async function startServer(environment: Record<string, string> = {}): Promise<Server> {
  const port = await freePort();
  const process_ = spawn(
    process.execPath,
    [...(process.env.LOAD_NODE ?? '').split(' ').filter(Boolean), `${process.env.NEXT_DIST ?? '.next-test'}/serve.mjs`],
    {
      env: {
        ...process.env,
        NODE_ENV: 'production',
        PORT: String(port),
        VAST_ADDRESS: `http://127.0.0.1:${port}`,
        VAST_LOG: 'warn',
        ...environment,
      },
      stdio: ['ignore', 'ignore', 'inherit'],
    },
  );
  const end = (signal: NodeJS.Signals = 'SIGTERM') =>
    new Promise<void>((resolve) => {
      if (process_.exitCode !== null || process_.signalCode !== null) return resolve();
      process_.once('close', () => resolve());
      process_.kill(signal);
    });
  for (let look = 0; look < 300; look += 1) {
    if ((await ask(port, 'GET', '/api/health', undefined, {}).catch(() => undefined))?.status === 200)
      return { port, process: process_, end };
    await wait(100);
  }
  await end('SIGKILL');
  throw new Error('the server did not become ready');
}
