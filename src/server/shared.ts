import { isTogether } from '@/db/connection';
import { DatabaseFault } from '@/db/fault';

/*
 * Work that many ask for at the same time, done together: while two transactions of a firm are under way, what comes meanwhile waits
 * and shares the next. Under load there are as many commits as the disk takes, not as many as there are devices.
 */

const mostParts = 50;
/** While one commits the next can begin. */
const mostAtOnce = 2;

interface Waiting<P, D> {
  readonly part: P;
  readonly resolve: (done: D) => void;
  readonly reject: (error: unknown) => void;
}

export class Shared<P, D> {
  private readonly waiting = new Map<string, Waiting<P, D>[]>();
  /** How many transactions of a firm are under way. */
  private readonly busy = new Map<string, number>();

  /** @param work answers each part in its place, in one transaction: all of it is done, or none */
  constructor(private readonly work: (firmId: string, parts: readonly P[]) => Promise<readonly D[]>) {}

  /** Does it with whatever else is asked for this firm now; inside a transaction of the caller's own, at once. */
  ask(firmId: string, part: P): Promise<D> {
    if (isTogether(firmId)) return this.work(firmId, [part]).then(([done]) => done);
    return new Promise((resolve, reject) => {
      const list = this.waiting.get(firmId) ?? [];
      list.push({ part, resolve, reject });
      this.waiting.set(firmId, list);
      if ((this.busy.get(firmId) ?? 0) < mostAtOnce) void this.run(firmId);
    });
  }

  private async run(firmId: string): Promise<void> {
    const count = (by: number) => this.busy.set(firmId, (this.busy.get(firmId) ?? 0) + by);
    count(1);
    for (let list = this.waiting.get(firmId); list !== undefined && list.length > 0; list = this.waiting.get(firmId))
      await this.do(firmId, list.splice(0, mostParts));
    count(-1);
    if (this.busy.get(firmId) !== 0) return;
    this.busy.delete(firmId);
    this.waiting.delete(firmId);
  }

  private async do(firmId: string, now: readonly Waiting<P, D>[]): Promise<void> {
    try {
      const done = await this.work(
        firmId,
        now.map(({ part }) => part),
      );
      for (const [index, { resolve }] of now.entries()) resolve(done[index]);
    } catch (error) {
      // A database that is busy is busy for all of them.
      if (now.length === 1 || (error instanceof DatabaseFault && error.isBusy)) {
        for (const { reject } of now) reject(error);
        return;
      }
      // One of them spoils it for all: each by itself, so that it spoils its own alone.
      for (const one of now) await this.do(firmId, [one]);
    }
  }
}
