import type { Asked } from '../card';
import { askChoice, askQuantity, askText } from '../questions';

/** What gas piping under air is asked (DOMAIN 5.3), in trade order. */
export const parameters = [
  askChoice(
    'stages',
    'Stages',
    [
      ['both', 'Both: up to the stops, then with the stops open'],
      ['first', 'Stage 1 alone'],
    ],
    'Stage 1 alone certifies the piping up to the stops, and nothing beyond.',
  ),
  askQuantity(
    'working',
    'Working pressure',
    'pressure',
    'psi',
    '0.25',
    ['0.01', '100'],
    'Under 1 psi is tested at 3 psi; a 2-psi system at 10 psi, the whole of it, since a regulator may fail.',
  ),
  askChoice(
    'medium',
    'Test gas',
    [
      ['air', 'Air'],
      ['nitrogen', 'Nitrogen'],
      ['carbon dioxide', 'Carbon dioxide'],
      ['oxygen', 'Oxygen'],
      ['fuel gas', 'Fuel gas'],
    ],
    'Never oxygen, never fuel gas.',
  ),
  askQuantity(
    'lowest-rating',
    'Lowest rating of the controls',
    'pressure',
    'psi',
    '0.5',
    ['0.15', '100'],
    'Stage 2 goes no higher: many controls are rated ½ psi.',
    { askedFor: { answer: 'stages', is: ['both'] } },
  ),
  {
    kind: 'components',
    id: 'components',
    label: 'What stays connected in stage 1',
    help: 'A line each, with its rating: Line regulator 10 psi',
    usual: '',
  },
  askChoice(
    'building',
    'Building',
    [
      ['single dwelling', 'Single dwelling'],
      ['other', 'Any other'],
    ],
    'A single dwelling, or less than 10 ft³, holds 15 min; all else half an hour for each 500 ft³ begun.',
    { usual: 'other' },
  ),
  askText('short-code', 'Code reference that allows 10 min', 'Leave empty for the full time.', true),
  askQuantity('asked', 'Longer hold asked for', 'time', 'min', '', ['1', '1440'], 'Overnight, or what the inspector wants.', {
    optional: true,
  }),
  askQuantity('altitude', 'Altitude', 'length', 'm', '0', ['-400', '5000'], 'Sets the atmosphere where no barometer is read.'),
] as const satisfies Asked;
