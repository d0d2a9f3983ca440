import type { RunEvent } from '@/core/judging';
import { addressOf } from '@/core/permissions';
import { boot, mono, newId, now } from './clock';
import { type DeviceStore, deviceId, type Tables, type Waiting } from './store';

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
export const refusedItems = (store: Tables): Promise<readonly Waiting[]> => store.outbox.where('refused').above('').sortBy('order');
export const countRefused = (store: Tables): Promise<number> => store.outbox.where('refused').above('').count();
/** What is still to be sent. */
export const countWaiting = async (store: Tables): Promise<number> => (await store.outbox.count()) - (await countRefused(store));

/** Puts refused things back in the queue. */
export const tryAgain = (store: Tables): Promise<number> =>
  store.outbox
    .where('refused')
    .above('')
    .modify(({ refused: _, ...waiting }) => waiting);

let sending: Promise<Signal> | undefined;
/** How far the server's clock is ahead of this device's, ms, at the last sync; noted, never a reason to refuse. */
export let skewMs = 0;

/** Sends what waits. One at a time; asked again meanwhile, the same sending answers. */
export function flush(store: DeviceStore): Promise<Signal> {
  sending ??= send(store).finally(() => {
    sending = undefined;
  });
  return sending;
}

/** So many things go in one sending, while all of them together are shorter than the server takes. */
const [batch, mostText] = [500, 1_000_000];
/** What the server fails on so often by itself is set aside, and the rest goes on. */
const mostFailures = 3;

/** The first of them, and of the rest what fits into one sending. */
function shortEnough(found: readonly Waiting[]): readonly Waiting[] {
  let text = 0;
  const from = found.findIndex(({ item }, index) => {
    if (item.kind !== 'photo') text += JSON.stringify(item).length;
    return index > 0 && text > mostText;
  });
  return from === -1 ? found : found.slice(0, from);
}

type Halt = 'no signal' | 'signed out';
/** Ours is at fault over what was sent: not the way there, and not a crowd. */
type Sent = 'sent' | 'failed' | Halt;

const isPhoto = ({ item }: Waiting): boolean => item.kind === 'photo';

async function send(store: DeviceStore): Promise<Exclude<Signal, { state: 'asking' }>> {
  /** What failed in this pass; it is tried again in the next. */
  const failed = new Set<number>();
  /** The session is over: what was worked on is taken by the delivery key, and everything else waits for somebody to sign in. */
  let delivery: string | undefined;
  const next = async (wanted: (one: Waiting) => boolean, limit: number): Promise<readonly Waiting[]> => {
    const found: Waiting[] = [];
    // Read many at a time: one by one takes longer than to send them.
    for (let after = -1; found.length < limit; ) {
      const seen = await store.outbox.where('order').above(after).limit(batch).toArray();
      found.push(
        ...seen.filter((one) => isWaiting(one) && !failed.has(one.order) && (delivery === undefined || isDelivered(one)) && wanted(one)),
      );
      if (seen.length < batch) break;
      after = seen[seen.length - 1].order;
    }
    return shortEnough(found.slice(0, limit));
  };
  const halted = async (state: Halt) => ({ state, count: await countWaiting(store) }) as const;
  for (;;) {
    // Readings, notes and signatures before any picture, also those that were written meanwhile: a verdict never waits for megabytes.
    const waiting = await next((one) => !isPhoto(one), batch);
    const [photo] = waiting.length > 0 ? [] : await next(isPhoto, 1);
    if (photo === undefined && waiting.length === 0) break;
    const sent = photo === undefined ? await sendItems(store, waiting, delivery) : await sendPhoto(store, photo, delivery);
    if (sent === 'over') {
      delivery = await deliveryOf(store);
      if (delivery === undefined) return halted('signed out');
    } else if (sent === 'failed' && photo !== undefined) await countFailure(store, [photo.order], failed);
    else if (sent === 'failed') {
      // One of them spoils it for all: each by itself.
      for (const { orders } of grouped(waiting)) {
        const alone = await sendItems(
          store,
          waiting.filter(({ order }) => orders.includes(order)),
          delivery,
        );
        if (alone === 'failed') await countFailure(store, orders, failed);
        else if (alone === 'over') return halted('signed out');
        else if (alone !== 'sent') return halted(alone);
      }
    } else if (sent !== 'sent') return halted(sent);
  }
  const count = await countWaiting(store);
  return count === 0 ? { state: 'sent' } : { state: delivery === undefined ? 'waiting' : 'signed out', count };
}

async function countFailure(store: Tables, orders: readonly number[], failed: Set<number>): Promise<void> {
  for (const order of orders) failed.add(order);
  await store.outbox
    .where('order')
    .anyOf([...orders])
    .modify((one) => {
      const failures = (one.failures ?? 0) + 1;
      return failures < mostFailures
        ? { ...one, failures }
        : { ...one, failures: 0, refused: 'The server failed on it three times. Tell whoever runs it; it stays here.' };
    });
}

/** Events of one run travel together; anything else by itself, in order. */
function grouped(waiting: readonly Waiting[]): readonly { readonly orders: readonly number[]; readonly item: Waiting['item'] }[] {
  const groups: { orders: number[]; item: Waiting['item'] }[] = [];
  for (const { order, item } of waiting) {
    const last = groups.at(-1);
    if (last !== undefined && item.kind === 'events' && last.item.kind === 'events' && last.item.run === item.run) {
      last.orders.push(order);
      last.item = { ...item, events: [...last.item.events, ...item.events] };
    } else groups.push({ orders: [order], item });
  }
  return groups;
}

/** What is taken when a session is over: what was worked on, and no change of anything else. */
const isDelivered = ({ item: { kind } }: Waiting): boolean => kind === 'test' || kind === 'run' || kind === 'events' || kind === 'photo';

async function sendItems(all: DeviceStore, waiting: readonly Waiting[], delivery?: string): Promise<Sent | 'over'> {
  const groups = grouped(waiting);
  const response = await sync(
    groups.map(({ item }) => item),
    delivery,
  );
  if (response === undefined) return 'no signal';
  if (response.status === 401) return delivery === undefined ? 'over' : 'signed out';
  const answer = await answerOf<{
    receipts?: ({ ok: true; quarantined: { id: string; why: string }[]; from?: number } | { ok: false; message: string })[];
    problem?: { code?: string };
    serverNow?: number;
  }>(response);
  // Whoever else answers, a portal or a proxy, says nothing of ours; and a server that is busy is asked again.
  if (answer?.problem?.code === 'fault' || answer?.problem?.code === 'too-large') return 'failed';
  if (answer?.receipts === undefined) return 'no signal';
  if (answer.serverNow !== undefined) skewMs = answer.serverNow - now();
  // In one go, whatever there is of it: what is looked at meanwhile is drawn anew once, and not for every reading.
  return all.transaction('rw', ['events', 'outbox', 'marks'], async (store) => {
    // What the register said before it took this is old now: see `takeAlong`.
    if (groups.some(({ item: { kind } }) => kind === 'change' || kind === 'calibration'))
      await store.marks.put({ key: 'taken', id: newId() });
    for (const [index, { orders, item: sent }] of groups.entries()) {
      const receipt = answer.receipts?.[index];
      if (receipt === undefined) return 'no signal';
      if (!receipt.ok) {
        await store.outbox
          .where('order')
          .anyOf([...orders])
          .modify((one) => ({ ...one, refused: receipt.message }));
        continue;
      }
      // Their places in the log are known now, and need not be asked for.
      if (receipt.from !== undefined && sent.kind === 'events')
        await placed(store, sent.run, sent.events as readonly RunEvent[], receipt.from);
      // What was kept aside stays here with the reason; the rest of the same sending has arrived.
      const why = new Map(receipt.quarantined.map((one) => [one.id, one.why]));
      const refusedFor = (order: number): string | undefined => {
        const item = waiting.find((one) => one.order === order)?.item;
        return why.size === 0 || item?.kind !== 'events' ? undefined : item.events.map((event) => why.get(idOf(event))).find(Boolean);
      };
      await store.outbox.bulkDelete(orders.filter((order) => refusedFor(order) === undefined));
      for (const order of orders) {
        const refused = refusedFor(order);
        if (refused !== undefined) await store.outbox.update(order, { refused });
      }
    }
    return 'sent';
  });
}

async function placed(store: Tables, run: string, events: readonly RunEvent[], from: number): Promise<void> {
  const kept = await store.events.bulkGet(events.map(({ id }): [string, string] => [run, id]));
  await store.events.bulkPut(kept.flatMap((event, index) => (event === undefined ? [] : [{ ...event, position: from + index }])));
}

/** What is sent, with this device's clocks as they stand at that moment. */
const sync = (items: readonly Waiting['item'][], delivery?: string): Promise<Response | undefined> =>
  post(
    addressOf('POST /api/field/sync'),
    JSON.stringify({ items, clock: { device: deviceId(newId), boot, at: now(), mono: mono() } }),
    delivery,
  );

/** The key by which this device's work is taken when its session is over. */
const deliveryOf = async (store: Tables): Promise<string | undefined> => (await store.facts.get('facts'))?.delivery;

/** Has the server look at this device's clock once more, for a run whose time is not proved yet. */
export const tellClock = (run: string): Promise<Response | undefined> => sync([{ kind: 'events', run, events: [] }]);

const idOf = (event: unknown): string => String((event as { id?: unknown } | null)?.id ?? '');

const pieceBytes = 192 * 1024;

/**
 * A picture goes in pieces: a poor signal gets one through at a time, and what has arrived is not sent again after a break. Its hash
 * says which it is, on both sides.
 */
async function sendPhoto(store: Tables, { order, item }: Waiting, delivery?: string): Promise<Sent | 'over'> {
  if (item.kind !== 'photo') return 'sent';
  const { picture, run, takenAt, hash } = item;
  // The first question sends nothing: how much of it is there?
  for (let have = 0, asked = false; !asked || have < picture.size; asked = true) {
    const part = asked ? picture.slice(have, have + pieceBytes) : new Blob([]);
    const about = `run=${run}&takenAt=${takenAt}&hash=${hash}&size=${picture.size}&at=${have}`;
    const response = await post(`${addressOf('POST /api/field/photo')}?${about}`, part, delivery);
    if (response === undefined) return 'no signal';
    if (response.status === 401) return delivery === undefined ? 'over' : 'signed out';
    const answer = await answerOf<{ have?: number; problem?: { code?: string; message?: string } }>(response);
    if (answer?.problem?.code === 'fault') return 'failed';
    if (answer?.problem?.code === 'busy' || answer?.problem?.code === 'too-often') return 'no signal';
    if (answer?.problem?.message !== undefined) {
      await store.outbox.update(order, { refused: answer.problem.message });
      return 'sent';
    }
    if (typeof answer?.have !== 'number' || (asked && answer.have <= have)) return 'no signal';
    have = answer.have;
  }
  await store.outbox.delete(order);
  return 'sent';
}

/** What the server says; undefined where the connection broke before all of it was there, or somebody else answered. */
async function answerOf<T>(response: Response): Promise<T | undefined> {
  try {
    return (await response.json()) as T;
  } catch {
    return undefined;
  }
}

async function post(address: string, body: BodyInit, delivery?: string): Promise<Response | undefined> {
  try {
    return await fetch(address, {
      method: 'POST',
      body,
      headers: {
        ...(typeof body === 'string' ? { 'content-type': 'application/json' } : {}),
        ...(delivery === undefined ? {} : { 'delivery-key': delivery }),
      },
      signal: AbortSignal.timeout(20_000),
    });
  } catch {
    return undefined;
  }
}
