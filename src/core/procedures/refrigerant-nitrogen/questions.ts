import { refrigerants, strengthFactors } from '../../physics/saturation';
import type { Asked, Figures } from '../card';
import { askChoice, askQuantity } from '../questions';

/** Figures of the practice, and what one job is asked (DOMAIN 3.10, 5.13). */

export const figures = [
  { id: 'first-step', label: 'First stop of the rise', value: '1', unit: 'bar', stricter: 'lower', bound: '0.5' },
  { id: 'rise-step', label: 'Steps of the rise', value: '5', unit: 'bar', stricter: 'lower', bound: '1' },
  { id: 'pause-seconds', label: 'Pause at each step', value: '60', unit: 's', stricter: 'higher', bound: '3600' },
  {
    id: 'raise-above',
    label: 'Raised above the strength pressure by at most',
    value: '0.3',
    unit: 'bar',
    stricter: 'lower',
    bound: '0.1',
  },
  { id: 'strength-seconds', label: 'Strength hold', value: '900', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'tightness-seconds', label: 'Tightness hold', value: '3600', unit: 's', stricter: 'higher', bound: '86400' },
  { id: 'threshold', label: 'A fall counts from', value: '0.05', unit: 'bar', stricter: 'lower', bound: '0.01' },
  { id: 'coarsest', label: 'Gauge’s step at most', value: '0.5', unit: 'bar', stricter: 'lower', bound: '0.001' },
] as const satisfies Figures;

const lowToo = { answer: 'sides', is: ['both', 'low'] } as const;
const highToo = { answer: 'sides', is: ['both', 'high'] } as const;
const namePlate =
  'From the nameplate, or a published table for a blend. It governs. Left empty, the saturation pressure at the design temperature.';

export const parameters = [
  askChoice(
    'gas',
    'Test gas',
    [
      ['nitrogen', 'Oxygen-free dry nitrogen'],
      ['air', 'Air'],
      ['oxygen', 'Oxygen'],
      ['refrigerant', 'Refrigerant'],
    ],
    'Nothing else: air brings moisture, oxygen explodes with oil.',
  ),
  askChoice('refrigerant', 'Refrigerant', refrigerants, 'What the plant will run on.'),
  askChoice(
    'sides',
    'Sides',
    [
      ['both', 'Low and high, each at its own pressure'],
      ['high', 'High side alone'],
      ['low', 'Low side alone'],
    ],
    'Kept apart, each side sees its own strength pressure.',
  ),
  askQuantity(
    'low-design',
    'Low side: design temperature',
    'temperature',
    'C',
    '32',
    ['-60', '90'],
    'Highest that the low side can reach at rest.',
    { askedFor: lowToo },
  ),
  askQuantity('low-ps', 'Low side: permitted pressure PS', 'pressure', 'bar', '', ['0.5', '140'], namePlate, {
    optional: true,
    askedFor: lowToo,
  }),
  askQuantity('high-design', 'High side: design temperature', 'temperature', 'C', '55', ['-60', '90'], 'Highest condensing temperature.', {
    askedFor: highToo,
  }),
  askQuantity('high-ps', 'High side: permitted pressure PS', 'pressure', 'bar', '', ['0.5', '140'], namePlate, {
    optional: true,
    askedFor: highToo,
  }),
  askChoice('factor', 'Strength over PS', strengthFactors, '1.1 is usual; 1.43 where the specification asks for it.'),
  askQuantity(
    'regulator',
    'Regulator’s outlet range',
    'pressure',
    'bar',
    '50',
    ['1', '400'],
    'It must reach the highest test pressure, and be no more than about twice it.',
  ),
  askChoice(
    'recovered',
    'What is in it now',
    [
      ['none', 'No refrigerant: new, or recovered'],
      ['in it', 'Still refrigerant'],
    ],
    'It is recovered before anything is connected.',
  ),
] as const satisfies Asked;
export const asked = { parameters };
