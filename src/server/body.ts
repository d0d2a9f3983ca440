import { type StorableFault, storableFault, storableWords } from '@/core/exact';
import { type Answer, answer, later, refuse } from './answers';

/* What comes from outside is limited before it is read: by bytes while it streams, then by depth and by what can be kept. */

interface Held {
  /** Of bodies that are being read or worked on now, in this process. */
  bytes: number;
  /** When more of long ones may be read. */
  freeAt: number;
}

const shared = globalThis as { __vastStoneHeld?: Held };
const held = (): Held => {
  shared.__vastStoneHeld ??= { bytes: 0, freeAt: 0 };
  return shared.__vastStoneHeld;
};
const mostHeld = 96 * 1024 * 1024;

/** Of a body the first so many bytes are taken as they come; of what is longer all together so many a second. */
const [freeBytes, pacedPerSecond] = [1024 * 1024, 24 * 1024 * 1024];

/** Waits until so many more bytes may be read: whoever pours as fast as the machine takes them keeps others waiting. */
async function paced(holding: Held, bytes: number): Promise<void> {
  const now = performance.now();
  holding.freeAt = Math.max(holding.freeAt, now) + (bytes / pacedPerSecond) * 1000;
  const ms = holding.freeAt - now;
  if (ms > 5) await new Promise((resolve) => setTimeout(resolve, ms));
}

const megabytes = (bytes: number): string =>
  bytes >= 1024 * 1024 ? `${Math.round(bytes / 1024 / 1024)} MB` : `${Math.ceil(bytes / 1024)} kB`;

/**
 * Reads a body of at most so many bytes and hands it to the work; what is longer is refused when the first byte too many comes,
 * whatever its length was said to be.
 */
export async function withBody<T>(
  request: Request,
  most: number,
  work: (body: Buffer) => Promise<Answer<T> | Response>,
): Promise<Answer<T> | Response> {
  const tooLarge = refuse(413, 'too-large', `This is larger than ${megabytes(most)}, which is the most that is taken here.`);
  const said = request.headers.get('content-length');
  if (said !== null && Number(said) > most) return tooLarge;
  const claim = Math.min(most, said === null ? most : Number(said));
  const holding = held();
  if (holding.bytes + claim > mostHeld) return later(503, 'busy', 'The server has too much in hand just now. It will be tried again.', 3);
  holding.bytes += claim;
  try {
    const parts: Uint8Array[] = [];
    let length = 0;
    const reader = request.body?.getReader();
    for (let part = await reader?.read(); part !== undefined && !part.done; part = await reader?.read()) {
      length += part.value.byteLength;
      if (length > most) {
        await reader?.cancel().catch(() => undefined);
        return tooLarge;
      }
      parts.push(part.value);
      if (length > freeBytes) await paced(holding, part.value.byteLength);
    }
    return await work(Buffer.concat(parts, length));
  } finally {
    holding.bytes -= claim;
  }
}

/** Longest text and deepest nesting that any of our own routes needs: a log of a gauge, a plan in its attempt. */
export const limits = { text: 100_000, depth: 24 } as const;

const words = ({ path, why }: StorableFault) => {
  const field = path.find((one) => typeof one === 'string');
  return refuse(400, why === 'too long' ? 'too-long' : 'unstorable', storableWords[why], field === undefined ? undefined : String(field));
};

/** The refusal of a value that could not be kept. */
export const unstorable = (value: unknown): Answer<never> | undefined => {
  const fault = storableFault(value, limits);
  return fault === undefined ? undefined : words(fault);
};

/** The body as a JSON object. `loose` leaves its texts to whoever looks at each part of it. */
export function jsonOf(body: Buffer, loose = false): Answer<Readonly<Record<string, unknown>>> {
  let value: unknown;
  try {
    value = body.length === 0 ? {} : JSON.parse(body.toString('utf8'));
  } catch {
    return refuse(400, 'not-json', 'What was sent is not JSON.');
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return refuse(400, 'not-json', 'What was sent is no JSON object.');
  return (loose ? undefined : unstorable(value)) ?? answer(value as Readonly<Record<string, unknown>>);
}
