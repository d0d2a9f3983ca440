/** A picture as marks on a sheet of its own size, in points: every renderer draws the same. */
export type Tone = 'ink' | 'quiet' | 'faint' | 'stop' | 'caution' | 'good' | 'paper';

/** What the tones are on paper; dark enough on white for small print. */
export const tones: Readonly<Record<Tone, string>> = {
  ink: '#23282b',
  quiet: '#575e62',
  faint: '#d5cfc1',
  stop: '#8a2b1d',
  caution: '#7a5200',
  good: '#5b7744',
  paper: '#ffffff',
};

export type Mark =
  /** Points are x, y, x, y …; `closed` and `filled` make a shape of them. */
  | {
      readonly do: 'line';
      readonly points: readonly number[];
      readonly tone: Tone;
      readonly width: number;
      readonly dashed?: true;
    }
  | { readonly do: 'area'; readonly points: readonly number[]; readonly tone: Tone; readonly opacity: number }
  | { readonly do: 'dot'; readonly x: number; readonly y: number; readonly radius: number; readonly tone: Tone; readonly hollow?: true }
  | {
      readonly do: 'text';
      readonly x: number;
      readonly y: number;
      readonly text: string;
      readonly size: number;
      readonly tone: Tone;
      readonly anchor: 'start' | 'middle' | 'end';
      readonly strong?: true;
      readonly figures?: true;
    };

export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly marks: readonly Mark[];
}

/** To a hundredth of a point, so that every machine draws the same figures. */
const near = (value: number): number => {
  const rounded = Math.round(value * 100) / 100;
  return Object.is(rounded, -0) ? 0 : rounded;
};

export const line = (points: readonly number[], tone: Tone, width: number, dashed?: true): Mark => ({
  do: 'line',
  points: points.map(near),
  tone,
  width,
  ...(dashed === undefined ? {} : { dashed }),
});
export const area = (points: readonly number[], tone: Tone, opacity = 1): Mark => ({ do: 'area', points: points.map(near), tone, opacity });
export const box = (x: number, y: number, width: number, height: number, tone: Tone, opacity = 1): Mark =>
  area([x, y, x + width, y, x + width, y + height, x, y + height], tone, opacity);
export const dot = (x: number, y: number, radius: number, tone: Tone, hollow?: true): Mark => ({
  do: 'dot',
  x: near(x),
  y: near(y),
  radius,
  tone,
  ...(hollow === undefined ? {} : { hollow }),
});
export const words = (
  x: number,
  y: number,
  text: string,
  look: {
    readonly size?: number;
    readonly tone?: Tone;
    readonly anchor?: 'start' | 'middle' | 'end';
    readonly strong?: true;
    readonly figures?: true;
  } = {},
): Mark => ({
  do: 'text',
  x: near(x),
  y: near(y),
  text,
  size: look.size ?? 8,
  tone: look.tone ?? 'quiet',
  anchor: look.anchor ?? 'start',
  ...(look.strong === undefined ? {} : { strong: look.strong }),
  ...(look.figures === undefined ? {} : { figures: look.figures }),
});

/** Points of an arc about a centre, in parts of a turn from the top, as a line is drawn through them. */
export const arc = (x: number, y: number, radius: number, from: number, to: number): readonly number[] => {
  const steps = Math.max(2, Math.ceil(Math.abs(to - from) * 60));
  return Array.from({ length: steps + 1 }, (_, index) => onCircle(x, y, radius, from + ((to - from) * index) / steps)).flat();
};

/** A point of a circle, in parts of a turn from the top. */
export const onCircle = (x: number, y: number, radius: number, turns: number): readonly [number, number] => [
  x + Math.sin(turns * 2 * Math.PI) * radius,
  y - Math.cos(turns * 2 * Math.PI) * radius,
];

/** A straight scale from figures to points. */
export const scale =
  ([low, high]: readonly [number, number], [from, to]: readonly [number, number]) =>
  (value: number): number =>
    high === low ? (from + to) / 2 : from + ((value - low) / (high - low)) * (to - from);

/** Round figures between two ends, about so many, as text with the decimals that their step needs. */
export function ticks(low: number, high: number, about: number): readonly { readonly value: number; readonly text: string }[] {
  const span = high - low;
  if (!(span > 0) || !Number.isFinite(span)) return [];
  const raw = span / Math.max(1, about);
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((one) => one * power).find((one) => one >= raw * 0.999) ?? power * 10;
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const first = Math.ceil(low / step - 1e-9);
  const count = Math.floor(high / step + 1e-9) - first + 1;
  return Array.from({ length: Math.max(0, count) }, (_, index) => {
    const value = (first + index) * step;
    return { value, text: value.toFixed(decimals).replace(/^-(0(?:\.0*)?)$/, '$1') };
  });
}
