import { Worker } from 'node:worker_threads';

/** The value below which so large a share of a sorted list lies. */
export const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;

export interface Look {
  readonly status: number;
  readonly ms: number;
  /** When it was asked, ms since 1970. */
  readonly at: number;
}

/**
 * Asks for health ten times a second until it is ended, in a thread that has nothing else to do: what it waits for is the server.
 */
export function looksAtHealth(port: number): { readonly end: () => Promise<readonly Look[]> } {
  const looking = new Worker(
    `const { parentPort, workerData: { port } } = require('node:worker_threads');
     const { Agent, get } = require('node:http');
     const agent = new Agent({ keepAlive: true });
     const found = [];
     let going = true;
     parentPort.once('message', () => { going = false; });
     const look = () => {
       if (!going) return parentPort.postMessage(found);
       const [at, from] = [Date.now(), performance.now()];
       const said = (status) => {
         found.push({ status, at, ms: performance.now() - from });
         setTimeout(look, 100);
       };
       get({ host: '127.0.0.1', port, path: '/api/health', agent }, (response) => {
         response.resume();
         response.on('end', () => said(response.statusCode));
       }).on('error', () => said(0));
     };
     look();`,
    { eval: true, workerData: { port } },
  );
  return {
    end: () =>
      new Promise((resolve, reject) => {
        looking.once('message', resolve);
        looking.once('error', reject);
        looking.postMessage('end');
      }),
  };
}
