import { deleteDB, type IDBPDatabase, type IDBPObjectStore, openDB } from 'idb';

/*
 * Tables in the browser's own database: typed rows, transactions of several tables, and word of what was changed, also by another page.
 * A larger package weighed a quarter of all that a run has to fetch before its first button works.
 */

/** Where rows of a table are kept and found: their key, and by what else. */
export interface Shape {
  readonly key: string | readonly string[];
  /** The database counts the keys up by itself. */
  readonly counted?: true;
  readonly by?: readonly string[];
  /** By each of several values of a row. */
  readonly byEach?: readonly string[];
}

/** The browser could not keep or read something: its storage is full, shut or broken. */
export class StoreFailed extends Error {}

const failed = (error: unknown): unknown =>
  error instanceof DOMException ? new StoreFailed(`${error.name}: ${error.message}`, { cause: error }) : error;

type Mode = 'readonly' | 'readwrite';
type Kept = IDBPObjectStore<unknown, string[], string, Mode>;
type Writable = IDBPObjectStore<unknown, string[], string, 'readwrite'>;
/** How a table is reached: in a transaction of its own, or in one that is open. */
type Way = <R>(table: string, mode: Mode, work: (kept: Kept) => Promise<R>) => Promise<R>;

/** Rows of a table that are looked for; nothing is read before it is asked for. */
class Found<T, K extends IDBValidKey> {
  constructor(
    private readonly rows: Rows<T, K, never>,
    private readonly index: string | undefined,
    /** Ranges of the index or key, in order; one that is undefined is all of it. */
    private readonly ranges: readonly (IDBKeyRange | undefined)[],
    private readonly how: {
      readonly keep?: (row: T) => boolean;
      readonly backwards?: boolean;
      readonly skip?: number;
      readonly most?: number;
      readonly once?: boolean;
    } = {},
  ) {}

  private with(how: Found<T, K>['how']): Found<T, K> {
    return new Found(this.rows, this.index, this.ranges, { ...this.how, ...how });
  }
  filter = (keep: (row: T) => boolean): Found<T, K> => this.with({ keep });
  /** Each row once, also where several of its values are asked for. */
  distinct = (): Found<T, K> => this.with({ once: true });
  reverse = (): Found<T, K> => this.with({ backwards: true });
  offset = (skip: number): Found<T, K> => this.with({ skip });
  limit = (most: number): Found<T, K> => this.with({ most });

  private source = (kept: Kept) => (this.index === undefined ? kept : kept.index(this.index));

  /** Row by row, until there are enough of them. */
  private async walked(kept: Kept): Promise<T[]> {
    const { keep, backwards, skip = 0, most = Number.POSITIVE_INFINITY } = this.how;
    const found: T[] = [];
    let left = skip;
    for (const range of this.ranges) {
      let cursor = await this.source(kept).openCursor(range, backwards ? 'prev' : 'next');
      if (left > 0 && keep === undefined) {
        cursor = (await cursor?.advance(left)) ?? null;
        left = 0;
      }
      while (cursor !== null && found.length < most) {
        const row = cursor.value as T;
        if (keep === undefined || keep(row)) {
          if (left > 0) left -= 1;
          else found.push(row);
        }
        if (found.length < most) cursor = await cursor.continue();
      }
    }
    return found;
  }

  private async read(kept: Kept): Promise<T[]> {
    const { keep, backwards, skip, most, once } = this.how;
    if (backwards || (skip ?? 0) > 0 || (keep !== undefined && most !== undefined)) return this.walked(kept);
    const found = (await Promise.all(this.ranges.map((range) => this.source(kept).getAll(range, most)))).flat() as T[];
    const own = once ? [...new Map(found.map((row) => [JSON.stringify(this.rows.keyOf(row)), row])).values()] : found;
    const wanted = keep === undefined ? own : own.filter(keep);
    return most === undefined ? wanted : wanted.slice(0, most);
  }

  toArray = (): Promise<T[]> => this.rows.within('readonly', (kept) => this.read(kept));
  first = async (): Promise<T | undefined> => (await this.limit(1).toArray())[0];
  async sortBy(field: keyof T): Promise<T[]> {
    return (await this.toArray()).sort((a, b) => (a[field] < b[field] ? -1 : a[field] > b[field] ? 1 : 0));
  }
  primaryKeys = (): Promise<K[]> =>
    this.rows.within('readonly', async (kept) =>
      this.how.keep === undefined
        ? ((await Promise.all(this.ranges.map((range) => this.source(kept).getAllKeys(range)))).flat() as K[])
        : (await this.read(kept)).map(this.rows.keyOf),
    );
  count = async (): Promise<number> =>
    this.rows.within('readonly', async (kept) =>
      this.how.keep === undefined
        ? (await Promise.all(this.ranges.map((range) => this.source(kept).count(range)))).reduce((sum, one) => sum + one, 0)
        : (await this.read(kept)).length,
    );
  /** Answers how many went. */
  delete = (): Promise<number> =>
    this.rows.within('readwrite', async (kept) => {
      const gone = (await this.read(kept)).map(this.rows.keyOf);
      await Promise.all(gone.map((key) => (kept as Writable).delete(key)));
      return gone.length;
    });
  /** Puts others in their place; answers how many. */
  modify = (change: (row: T) => T): Promise<number> =>
    this.rows.within('readwrite', async (kept) => {
      const found = await this.read(kept);
      await Promise.all(found.map((row) => (kept as Writable).put(change(row))));
      return found.length;
    });
}

/** One table. What a new row is like differs from a kept one where the database counts its key. */
export class Rows<T, K extends IDBValidKey, New = T> {
  constructor(
    private readonly table: string,
    private readonly shape: Shape,
    private readonly way: Way,
  ) {}

  within = <R>(mode: Mode, work: (kept: Kept) => Promise<R>): Promise<R> => this.way(this.table, mode, work);
  private change = <R>(work: (kept: Writable) => Promise<R>): Promise<R> =>
    this.within('readwrite', (kept) => work(kept as unknown as Writable));
  readonly keyOf = (row: T): K => {
    const { key } = this.shape;
    const part = (name: string) => (row as Record<string, unknown>)[name];
    return (typeof key === 'string' ? part(key) : key.map(part)) as K;
  };

  get = (key: K): Promise<T | undefined> => this.within('readonly', (kept) => kept.get(key) as Promise<T | undefined>);
  bulkGet = (keys: readonly K[]): Promise<(T | undefined)[]> =>
    this.within('readonly', (kept) => Promise.all(keys.map((key) => kept.get(key) as Promise<T | undefined>)));
  add = (row: New): Promise<K> => this.change((kept) => kept.add(row) as Promise<K>);
  put = (row: T): Promise<unknown> => this.change((kept) => kept.put(row));
  bulkPut = (rows: readonly T[]): Promise<unknown> => this.change((kept) => Promise.all(rows.map((row) => kept.put(row))));
  delete = (key: K): Promise<void> => this.change((kept) => kept.delete(key));
  bulkDelete = (keys: readonly K[]): Promise<unknown> => this.change((kept) => Promise.all(keys.map((key) => kept.delete(key))));
  clear = (): Promise<void> => this.change((kept) => kept.clear());
  /** Changes a row where there is one. */
  update = (key: K, said: Partial<T>): Promise<unknown> =>
    this.change(async (kept) => {
      const before = (await kept.get(key)) as T | undefined;
      return before === undefined ? undefined : kept.put({ ...before, ...said });
    });

  private found = (index: string, ...ranges: readonly (IDBKeyRange | undefined)[]): Found<T, K> =>
    new Found<T, K>(this as unknown as Rows<T, K, never>, index === this.shape.key ? undefined : index, ranges);
  where = (index: keyof T & string) => ({
    equals: (value: IDBValidKey) => this.found(index, IDBKeyRange.only(value)),
    anyOf: (values: readonly IDBValidKey[]) => this.found(index, ...[...new Set(values)].map((value) => IDBKeyRange.only(value))),
    above: (value: IDBValidKey) => this.found(index, IDBKeyRange.lowerBound(value, true)),
    aboveOrEqual: (value: IDBValidKey) => this.found(index, IDBKeyRange.lowerBound(value)),
  });
  orderBy = (index: keyof T & string): Found<T, K> => this.found(index, undefined);
  private all = (): Found<T, K> => this.found(this.shape.key as string, undefined);
  filter = (keep: (row: T) => boolean): Found<T, K> => this.all().filter(keep);
  toArray = (): Promise<T[]> => this.all().toArray();
  count = (): Promise<number> => this.all().count();
  primaryKeys = (): Promise<K[]> => this.all().primaryKeys();
}

type AnyRows = Rows<never, never, never>;
const tablesOver = <Tables>(shapes: { readonly [N in keyof Tables]: Shape }, way: Way): Tables =>
  Object.fromEntries(Object.entries<Shape>(shapes).map(([name, shape]) => [name, new Rows(name, shape, way) as AnyRows])) as Tables;

/** A database of these tables, opened when it is first needed. */
export interface Stored<Tables> {
  readonly name: string;
  close(): void;
  /** Throws all of it away. */
  destroy(): Promise<void>;
  /** All of it or nothing; the work reaches these tables through what it is given, and waits for nothing else. */
  transaction<R>(mode: 'r' | 'rw', tables: readonly (keyof Tables & string)[], work: (tables: Tables) => Promise<R>): Promise<R>;
  /** The same tables, noting of which something was read. */
  watched(read: Set<string>): Tables & Pick<Stored<Tables>, 'transaction'>;
  /** Tells of which tables something was changed, here or by another page. Answers how to stop. */
  onChange(told: (tables: readonly string[]) => void): () => void;
}

export function stored<Tables>(name: string, version: number, shapes: { readonly [N in keyof Tables]: Shape }): Tables & Stored<Tables> {
  let opened: Promise<IDBPDatabase> | undefined;
  const close = () => {
    opened?.then((database) => database.close()).catch(() => undefined);
    opened = undefined;
  };
  const open = (): Promise<IDBPDatabase> => {
    opened ??= openDB(name, version, {
      upgrade: (database, _from, _to, transaction) => {
        for (const [table, { key, counted, by = [], byEach = [] }] of Object.entries<Shape>(shapes)) {
          const kept = database.objectStoreNames.contains(table)
            ? transaction.objectStore(table)
            : database.createObjectStore(table, { keyPath: key as string | string[], autoIncrement: counted === true });
          const missing = (index: string) => !kept.indexNames.contains(index);
          for (const index of by.filter(missing)) kept.createIndex(index, index);
          for (const index of byEach.filter(missing)) kept.createIndex(index, index, { multiEntry: true });
        }
      },
      // A newer page wants to change the tables: it is let through, and this one opens anew when it next needs them.
      blocking: close,
      terminated: () => {
        opened = undefined;
      },
    }).catch((error) => {
      opened = undefined;
      throw failed(error);
    });
    return opened;
  };
  const begun = async (tables: readonly string[], mode: Mode) => {
    try {
      return (await open()).transaction([...tables], mode);
    } catch (error) {
      // The browser has closed the database meanwhile, as it does to pages in the background.
      if (!(error instanceof DOMException) || error.name !== 'InvalidStateError') throw failed(error);
      opened = undefined;
      return (await open()).transaction([...tables], mode);
    }
  };

  const listeners = new Set<(tables: readonly string[]) => void>();
  const tell = (tables: readonly string[]) => {
    for (const told of listeners) told(tables);
  };
  const channel = typeof window === 'undefined' ? undefined : new BroadcastChannel(name);
  channel?.addEventListener('message', ({ data }: MessageEvent<readonly string[]>) => tell(data));
  const changed = (tables: readonly string[]) => {
    tell(tables);
    channel?.postMessage(tables);
  };

  const alone: Way = async (table, mode, work) => {
    const transaction = await begun([table], mode);
    try {
      const [result] = await Promise.all([work(transaction.objectStore(table) as Kept), transaction.done]);
      if (mode === 'readwrite') changed([table]);
      return result;
    } catch (error) {
      throw failed(error);
    }
  };

  const all: Stored<Tables> = {
    name,
    close,
    destroy: async () => {
      close();
      await deleteDB(name);
    },
    transaction: async (mode, tables, work) => {
      const transaction = await begun(tables, mode === 'r' ? 'readonly' : 'readwrite');
      // Where it fails, whoever works in it is told first; that nobody waits for its end yet is no fault of its own.
      transaction.done.catch(() => undefined);
      const written = new Set<string>();
      const within: Way = (table, how, use) => {
        if (how === 'readwrite') written.add(table);
        return use(transaction.objectStore(table) as Kept);
      };
      try {
        const result = await work(tablesOver<Tables>(shapes, within));
        await transaction.done;
        if (written.size > 0) changed([...written]);
        return result;
      } catch (error) {
        try {
          transaction.abort();
        } catch {
          // It was over already.
        }
        throw failed(error);
      }
    },
    watched: (read) => ({
      ...tablesOver<Tables>(shapes, (table, mode, work) => {
        read.add(table);
        return alone(table, mode, work);
      }),
      transaction: (mode, tables, work) => {
        for (const table of tables) read.add(table);
        return all.transaction(mode, tables, work);
      },
    }),
    onChange: (told) => {
      listeners.add(told);
      return () => listeners.delete(told);
    },
  };
  return { ...tablesOver<Tables>(shapes, alone), ...all };
}
