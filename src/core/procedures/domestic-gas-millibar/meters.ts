import type { Answers, Figure } from '../procedure';

/** Meters of the millibar school, by kind and size, and the fall that each permits (DOMAIN 5.1). */

export type MeterClass = 'diaphragm-6' | 'ultrasonic-6' | 'diaphragm-16' | 'none';

export const meters: Record<
  MeterClass,
  { readonly label: string; readonly litres: number; readonly small: string; readonly large: string }
> = {
  'diaphragm-6': { label: 'Diaphragm, 6 m³/h', litres: 8, small: '4.0', large: '2.5' },
  'ultrasonic-6': { label: 'Ultrasonic, 6 m³/h', litres: 2.4, small: '8.0', large: '4.0' },
  'diaphragm-16': { label: 'Diaphragm, 16 m³/h', litres: 25, small: '1.0', large: '1.0' },
  none: { label: 'No meter: the flat’s own emergency control', litres: 0, small: '8.0', large: '4.0' },
};

export const meterOf = (answers: Answers) => meters[(answers.meter as MeterClass) ?? 'diaphragm-6'] ?? meters['diaphragm-6'];

/** One school gives the large meter half a millibar more; a firm may take that in its own procedure, by its own code. */
const schoolsLoosest = (key: MeterClass) => (key === 'diaphragm-16' ? { loosest: '1.5' } : {});

export const permittedFigures: readonly Figure[] = (Object.keys(meters) as MeterClass[]).flatMap((key) => [
  {
    id: `permitted-${key}-28`,
    label: `Permitted drop, ${meters[key].label}, pipe to 28 mm`,
    value: meters[key].small,
    unit: 'mbar',
    stricter: 'lower' as const,
    ...schoolsLoosest(key),
  },
  {
    id: `permitted-${key}-35`,
    label: `Permitted drop, ${meters[key].label}, pipe over 28 to 35 mm`,
    value: meters[key].large,
    unit: 'mbar',
    stricter: 'lower' as const,
    ...schoolsLoosest(key),
  },
]);

export const isPipeworkOnly = (answers: Answers) => answers.appliances === 'pipework only';

/** A longer hold must not fall further: the drop stays that of two minutes, whatever the house's time. */
const minutes = (seconds: string): string => (Number(seconds) % 60 === 0 ? `${Number(seconds) / 60} minutes` : `${seconds} s`);

/** The permitted drop, or why there is none. */
export function permitted(answers: Answers, figure: (id: string) => string): { readonly drop?: string; readonly why: string } {
  if (answers.work === 'new')
    return { why: 'New work, and a newly fitted appliance counts as new work: no perceptible fall is permitted.' };
  if (isPipeworkOnly(answers)) return { why: 'Pipework alone: no perceptible fall is permitted.' };
  if (answers.smell === 'yes') return { why: 'A smell of gas was reported: no perceptible fall is permitted.' };
  const large = answers.pipe === '>28-35';
  const drop = figure(`permitted-${answers.meter}-${large ? '35' : '28'}`);
  const why = `Existing work, appliances connected, no smell reported; ${meterOf(answers).label}; largest pipe ${large ? 'over 28 to 35' : 'to 28'} mm: with the appliances connected a fall up to and including ${drop} mbar in ${minutes(figure('hold-seconds'))} is permitted, and the pipework alone must then show none.`;
  return {
    drop,
    why:
      answers.meter === 'diaphragm-16'
        ? `${why} One school gives 1.5 mbar for this meter; the stricter 1.0 is taken because it errs safe.`
        : why,
  };
}
