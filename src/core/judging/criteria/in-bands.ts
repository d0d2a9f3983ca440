import { instrumentOf } from '../../planning/instruments';
import type { MeasureCriterion } from '../../procedures/phases';
import { toText, unitLabel } from '../../quantities';
import { finding } from '../reasons';
import { bandOf } from './bands';
import type { Found, MeasureContext } from './point';

type InBands = Extract<MeasureCriterion, { kind: 'in-bands' }>;

/** Single figures by their range; of several points the worst counts. The sentence gives the point that decided. */
export function inBands({ phase, plan, points }: MeasureContext, { unit, bands, worst }: InBands): Found {
  const field = phase.fields[0];
  const instrument = instrumentOf(plan, field.instrument);
  const found = points.flatMap(({ label, values }) => {
    const read = values.get(field.quantity);
    if (read === undefined) return [];
    const outcome = bandOf(bands, read.value, read.unit, unit);
    return [{ outcome, label, value: toText(read.value) }];
  });
  const rank = (outcome: string) => (worst.indexOf(outcome) < 0 ? worst.length : worst.indexOf(outcome));
  const decided = found.reduce((least, one) => (rank(one.outcome) < rank(least.outcome) ? one : least), found[0]);
  const data = {
    title: phase.title,
    point: decided.label,
    value: decided.value,
    unit: unitLabel(instrument.unit),
    bands: [...bands.steps.map(({ below, outcome }) => `${outcome} below ${below}`), `${bands.beyond} from there`].join(', '),
    bandUnit: unitLabel(unit),
  };
  const working = [`${data.value} ${data.unit}: ${decided.outcome} (${data.bands} ${data.bandUnit})`];
  return { outcome: decided.outcome, spoilt: false, findings: [finding('figure-read', data, phase.id, working)], working, data };
}
