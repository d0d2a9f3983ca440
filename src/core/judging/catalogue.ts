import { type Data, type Finding, holdRooms, measureRooms, type Reason, type Sayings } from '../limits';
import { conclusions } from '../procedures/conclusions';
import { sayings } from './sayings';

/** Raised when a sentence changes: two readers of one record can tell whether they read the same words. */
export const catalogueVersion = '1';

/** Every list of reasons: of the run, of each kind of limit, and of what tests come to. Their codes must be distinct, which a test proves. */
export const lists: readonly Sayings[] = [
  sayings as unknown as Sayings,
  conclusions as unknown as Sayings,
  ...[...holdRooms, ...measureRooms].map(({ says }) => says as Sayings),
];

const byCode = new Map<string, Reason<Data>>(lists.flatMap((list) => Object.entries(list) as unknown as [string, Reason<Data>][]));

/** Codes of everything that can be found. */
export const codes: readonly string[] = [...byCode.keys()];

/** Whether it asks something of whoever stands at the gauge; the rest belongs to the verdict. */
export const isSaidAtOnce = ({ code }: Pick<Finding, 'code'>): boolean => byCode.get(code)?.atOnce === true;

/** The sentence of a finding, rendered from its data. */
export const sentenceOf = ({ code, data }: Pick<Finding, 'code' | 'data'>): string => byCode.get(code)?.say(data) ?? code;

/** The arithmetic behind it; nothing where there is none. */
export const workingOf = ({ code, data }: Pick<Finding, 'code' | 'data'>): readonly string[] => byCode.get(code)?.working?.(data) ?? [];
