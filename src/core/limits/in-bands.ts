import { list, name, oneOf } from '../exact/shape';
import { type InstrumentUnit, toText, type UnitKind, unitLabel, unitsOf } from '../quantities';
import { bandNames } from './at-most';
import { bandOf } from './compare';
import { bandsText, measureRoom } from './room';
import { finder, reason } from './say';

const kinds: readonly UnitKind[] = ['pressure', 'volume', 'length', 'flow', 'turns'];
/** Units that an instrument of a plan can show. */
export const instrumentUnits = kinds.flatMap((kind) => unitsOf(kind)) as readonly InstrumentUnit[];
export const instrumentUnit = oneOf(...instrumentUnits);

const says = {
  'figure-read': reason<'title' | 'point' | 'value' | 'unit' | 'outcome' | 'bands' | 'bandUnit'>(
    'note',
    (d) => `${d.title}, ${d.point}: ${d.value} ${d.unit}, ${d.outcome.replaceAll('-', ' ')}.`,
    (d) => [`${d.value} ${d.unit}: ${d.outcome.replaceAll('-', ' ')} (${d.bands} ${d.bandUnit})`],
  ),
} as const;
const find = finder(says);

/** The figure of every point by its range; the worst counts, which is the first named in `worst`. The sentence gives the point that decided. */
export const inBands = measureRoom(
  'in-bands',
  { unit: instrumentUnit, bands: bandNames, worst: list(name, 20) },
  {
    decides: true,
    says,
    sum: (data) => says['figure-read'].working?.(data as never) ?? [],
    // The middle one is hoped for: the only one that no list of worse ones names.
    hoped: ({ bands: { steps, beyond }, worst }) =>
      [...steps.map(({ outcome }) => outcome), beyond].find((outcome) => !worst.includes(outcome)) ?? beyond,
    outcomes: ({ bands }) => [...bands.steps.map(({ outcome }) => outcome), bands.beyond],
    judge: ({ unit, bands, worst }, { title, points }) => {
      const found = points.flatMap(({ label, values }) =>
        [...values.values()].map((read) => ({
          outcome: bandOf(bands, read.value, read.unit, unit),
          label,
          value: toText(read.value),
          unit: unitLabel(read.unit),
        })),
      );
      const rank = (outcome: string) => (worst.indexOf(outcome) < 0 ? worst.length : worst.indexOf(outcome));
      const decided = found.reduce((least, one) => (rank(one.outcome) < rank(least.outcome) ? one : least), found[0]);
      const data = {
        title,
        point: decided.label,
        value: decided.value,
        unit: decided.unit,
        outcome: decided.outcome,
        bands: [...bands.steps.map(({ below, outcome }) => `${outcome} below ${below}`), `${bands.beyond} from there`].join(', '),
        bandUnit: unitLabel(unit),
      };
      return { outcome: decided.outcome, effect: 'leads on', data, findings: [find('figure-read', data)] };
    },
    words: ({ bands, unit }) => bandsText(bands.steps, bands.beyond, unitLabel(unit)),
    reports: (d) => `${d.value} ${d.unit}, ${(d.outcome ?? '').replaceAll('-', ' ')}`,
    figures: (d) => [{ label: d.point ?? '', value: d.value ?? '', unit: d.unit ?? '', beside: (d.outcome ?? '').replaceAll('-', ' ') }],
  },
);
