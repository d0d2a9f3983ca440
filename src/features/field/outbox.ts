import type { RunEvent } from '@/core/judging';
import { addressOf } from '@/core/permissions';
import { boot, mono, newId, now } from './clock';
import { deviceId, type FieldStore, type Waiting } from './store';

export type Signal =
  /** Nobody has asked yet what is still to be sent. */
  | { readonly state: 'asking' }
  | { readonly state: 'sent' }
  | { readonly state: 'waiting'; readonly count: number }
  | { readonly state: 'no signal'; readonly count: number }
  | { readonly state: 'signed out'; readonly count: number };

const isRefused = ({ refused }: Waiting): boolean => refused !== undefined;
const isWaiting = (waiting: Waiting): boolean => !isRefused(waiting);

/** What the server would not take, with its reasons; it stays on this device until somebody deals with it. */
export const refusedItems = (store: FieldStore): Promise<readonly Waiting[]> => store.outbox.filter(isRefused).toArray();
export const countRefused = (store: FieldStore): Promise<number> => store.outbox.filter(isRefused).count();
/** What is still to be sent. */
export const countWaiting = (store: FieldStore): Promise<number> => store.outbox.filter(isWaiting).count();

/** Puts refused things back in the queue. */
export const tryAgain = (store: FieldStore): Promise<number> =>
  store.outbox.filter(isRefused).modify((waiting) => {
    delete (waiting as { refused?: string }).refused;
  });

let sending: Promise<Signal> | undefined;
/** How far the server's clock is ahead of this device's, ms, at the last sync; noted, never a reason to refuse. */
export let skewMs = 0;

/** Sends what waits. One at a time; asked again meanwhile, the same sending answers. */
export function flush(store: FieldStore): Promise<Signal> {
  sending ??= send(store).finally(() => {
    sending = undefined;
  });
  return sending;
}

const batch = 200;

async function send(store: FieldStore): Promise<Exclude<Signal, { state: 'asking' }>> {
  for (;;) {
    const waiting = await store.outbox.orderBy('order').filter(isWaiting).limit(batch).toArray();
    if (waiting.length === 0) return { state: 'sent' };
    const count = await countWaiting(store);
    const photo = waiting.findIndex(({ item }) => item.kind === 'photo');
    const part = photo === 0 ? waiting.slice(0, 1) : waiting.slice(0, photo === -1 ? batch : photo);
    const failed = photo === 0 ? await sendPhoto(store, part[0]) : await sendItems(store, part);
    if (failed !== undefined) return { state: failed, count };
  }
}

async function sendItems(store: FieldStore, waiting: readonly Waiting[]): Promise<'no signal' | 'signed out' | undefined> {
  // Events of one run travel together; anything else by itself, in order.
  const groups: { orders: number[]; item: Waiting['item'] }[] = [];
  for (const { order, item } of waiting) {
    const last = groups.at(-1);
    if (last !== undefined && item.kind === 'events' && last.item.kind === 'events' && last.item.run === item.run) {
      last.orders.push(order);
      last.item = { ...item, events: [...last.item.events, ...item.events] };
    } else groups.push({ orders: [order], item });
  }
  const response = await sync(groups.map(({ item }) => item));
  if (response === undefined || response.status >= 500) return 'no signal';
  if (response.status === 401) return 'signed out';
  const answer = await answerOf<{
    receipts?: ({ ok: true; quarantined: { id: string; why: string }[]; from?: number } | { ok: false; message: string })[];
    serverNow?: number;
  }>(response);
  if (answer?.receipts === undefined) return 'no signal';
  if (answer.serverNow !== undefined) skewMs = answer.serverNow - now();
  for (const [index, { orders, item: sent }] of groups.entries()) {
    const receipt = answer.receipts[index];
    if (receipt === undefined) return 'no signal';
    if (!receipt.ok) {
      await store.outbox.where('order').anyOf(orders).modify({ refused: receipt.message });
      continue;
    }
    // Their places in the log are known now, and need not be asked for.
    if (receipt.from !== undefined && sent.kind === 'events')
      await placed(store, sent.run, sent.events as readonly RunEvent[], receipt.from);
    // What was kept aside stays here with the reason; the rest of the same sending has arrived.
    const why = new Map(receipt.quarantined.map((one) => [one.id, one.why]));
    for (const order of orders) {
      const item = waiting.find((one) => one.order === order)?.item;
      const refused = item?.kind === 'events' ? item.events.map((event) => why.get(idOf(event))).find(Boolean) : undefined;
      if (refused === undefined) await store.outbox.delete(order);
      else await store.outbox.update(order, { refused });
    }
  }
  return undefined;
}

const placed = (store: FieldStore, run: string, events: readonly RunEvent[], from: number): Promise<unknown> =>
  store.transaction('rw', store.events, async () => {
    for (const [index, { id }] of events.entries()) await store.events.update([run, id], { position: from + index } as never);
  });

/** What is sent, with this device's clocks as they stand at that moment. */
const sync = (items: readonly Waiting['item'][]): Promise<Response | undefined> =>
  post(addressOf('POST /api/field/sync'), JSON.stringify({ items, clock: { device: deviceId(newId), boot, at: now(), mono: mono() } }));

/** Has the server look at this device's clock once more, for a run whose time is not proved yet. */
export const tellClock = (run: string): Promise<Response | undefined> => sync([{ kind: 'events', run, events: [] }]);

const idOf = (event: unknown): string => String((event as { id?: unknown } | null)?.id ?? '');

async function sendPhoto(store: FieldStore, { order, item }: Waiting): Promise<'no signal' | 'signed out' | undefined> {
  if (item.kind !== 'photo') return undefined;
  const response = await post(`${addressOf('POST /api/field/photo')}?run=${item.run}&takenAt=${item.takenAt}`, item.picture);
  if (response === undefined || response.status >= 500) return 'no signal';
  if (response.status === 401) return 'signed out';
  if (response.ok) await store.outbox.delete(order);
  else {
    const answer = await answerOf<{ problem?: { message: string } }>(response);
    if (answer?.problem === undefined) return 'no signal';
    await store.outbox.update(order, { refused: answer.problem.message });
  }
  return undefined;
}

/** What the server says; undefined where the connection broke before all of it was there, or somebody else answered. */
async function answerOf<T>(response: Response): Promise<T | undefined> {
  try {
    return (await response.json()) as T;
  } catch {
    return undefined;
  }
}

async function post(address: string, body: BodyInit): Promise<Response | undefined> {
  try {
    return await fetch(address, {
      method: 'POST',
      body,
      headers: typeof body === 'string' ? { 'content-type': 'application/json' } : {},
      signal: AbortSignal.timeout(20_000),
    });
  } catch {
    return undefined;
  }
}
