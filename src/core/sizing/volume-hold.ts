/** Time of a pneumatic hold by volume: so long for each 500 ft³ begun, a floor, and whatever else asks for more (DOMAIN 5.3). */

export interface VolumeHold {
  readonly cubicFeet: number;
  readonly floorSeconds: number;
  readonly secondsPer500: number;
  /** A small system, in words (`a single dwelling`): the floor is its time, whatever its volume. */
  readonly small?: string;
  /** The still shorter time that a code allows a small system, with its reference; a floor that a house rule raised stands against it. */
  readonly short?: { readonly seconds: number; readonly reference: string };
  readonly floorIsHouse: boolean;
  /** A longer hold that somebody asked for. */
  readonly askedSeconds?: number;
}

export interface HoldTime {
  readonly seconds: number;
  /** Sentences that derive it. */
  readonly why: readonly string[];
  /** What was asked for is shorter than what is due. */
  readonly askedTooLittle: boolean;
}

const day = 86_400;

/** Minutes for sentences: whole, or with one decimal. */
export const minutesOf = (seconds: number): string => String(Number((seconds / 60).toFixed(1)));

/** The longest of all that ask for time, to a day. */
export function holdByVolume({ cubicFeet, floorSeconds, secondsPer500, small, short, floorIsHouse, askedSeconds }: VolumeHold): HoldTime {
  // Rounded to a millionth first, so that every machine counts the same blocks.
  const blocks = Math.max(1, Math.ceil(Math.round((cubicFeet / 500) * 1e6) / 1e6));
  const byCode = small !== undefined && !floorIsHouse ? short : undefined;
  const due = byCode?.seconds ?? (small === undefined ? Math.max(floorSeconds, secondsPer500 * blocks) : floorSeconds);
  const wanted = Math.max(due, askedSeconds === undefined ? 0 : Math.ceil(askedSeconds));
  return {
    seconds: Math.min(day, wanted),
    askedTooLittle: askedSeconds !== undefined && askedSeconds < due,
    why: [
      byCode !== undefined
        ? `Time: ${minutesOf(byCode.seconds)} min, as ${byCode.reference} allows for ${small}. Leaks often show only after 15 min.`
        : small !== undefined
          ? `Time: ${minutesOf(floorSeconds)} min for ${small}. Leaks often show only after 15 min.`
          : `Time: ${cubicFeet.toFixed(2)} ft³ ask for ${minutesOf(secondsPer500)} min for each 500 ft³ begun, ${minutesOf(secondsPer500 * blocks)} min in all; the floor is ${minutesOf(floorSeconds)} min.`,
      ...(askedSeconds === undefined ? [] : [`A hold of ${minutesOf(askedSeconds)} min was asked for.`]),
    ],
  };
}
