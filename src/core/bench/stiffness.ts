import { mostTrappedAir, trappedAir } from '../physics/trapped-air';
import { fallForLoss, filledStiffness, type WallMaterial, wallAndWater, wallMaterials, waterSensitivity } from '../physics/water-stiffness';
import { askQuantity } from '../procedures/questions';
import { fromSi, good, type Result, referencePressure } from '../quantities';
import { type Calculation, curve, figure, type Inputs, type Outcome, orUndefined, show } from './calculation';

function compute({ si, optional, text }: Inputs): Result<Outcome> {
  const material = text('material') as WallMaterial;
  const [outsideM, wallM, volumeM3, gaugePa, lossM3] = [si('outside'), si('wall'), si('volume'), si('pressure'), si('loss')];
  const absolutePa = gaugePa + referencePressure;
  const aluminium = optional('aluminium');
  const pipe = { material, outsideM, wallM, absolutePa, aluminiumM: aluminium };
  const soft = wallAndWater(pipe);
  if (!soft.ok) return soft;
  const added = optional('added');
  const from = optional('from');
  const measured =
    added === undefined || from === undefined
      ? undefined
      : trappedAir({
          volumeM3,
          addedM3: added,
          lowAbsolutePa: from + referencePressure,
          highAbsolutePa: absolutePa,
          atmospherePa: referencePressure,
          wallAndWater: soft.value,
        });
  if (measured?.ok === false) return measured;
  const airAtAtmosphere = measured?.value ?? si('air');
  const stiffness = filledStiffness({ ...pipe, airFraction: Math.min(0.5, (airAtAtmosphere * referencePressure) / absolutePa) });
  if (!stiffness.ok) return stiffness;
  const fall = fallForLoss(lossM3, volumeM3, stiffness.value);
  if (!fall.ok) return fall;
  const warming = waterSensitivity(material, stiffness.value);
  const fallWith = (percent: number) => {
    const other = filledStiffness({ ...pipe, airFraction: ((percent / 100) * referencePressure) / absolutePa });
    const moved = other.ok ? orUndefined(fallForLoss(lossM3, volumeM3, other.value)) : undefined;
    return moved === undefined ? undefined : fromSi(moved, 'bar');
  };
  const percent = airAtAtmosphere * 100;
  return good({
    found: [
      { label: 'Fall for that loss', si: fall.value, quantity: 'pressure', unit: 'bar', main: true },
      { label: 'Stiffness', si: stiffness.value, quantity: 'pressure', unit: 'MPa' },
      {
        label: 'Trapped air',
        si: airAtAtmosphere,
        quantity: 'share',
        unit: '%',
        note: `by volume at atmospheric pressure${measured === undefined ? ', as given' : ', from the water added'}`,
      },
      ...(warming.ok ? [{ label: 'A kelvin moves it by', si: warming.value, quantity: 'pressure' as const, unit: 'bar' as const }] : []),
    ],
    said: [
      ...(airAtAtmosphere > mostTrappedAir
        ? [{ tone: 'stop' as const, text: `More than ${mostTrappedAir * 100} % of air: the hold is not meaningful. Bleed again.` }]
        : []),
      ...(warming.ok ? [] : [{ tone: 'caution' as const, text: warming.problem.message }]),
    ],
    working: [
      `1/K = 1/2.19 GPa + D/(E × e) + α/p = ${figure(soft.value * 1e9)} + ${figure(((airAtAtmosphere * referencePressure) / absolutePa ** 2) * 1e9)} 1/GPa`,
      `K = ${show(stiffness.value, 'MPa')}`,
      `Δp = ΔV/V × K = ${show(lossM3, 'mL')} / ${show(volumeM3, 'L')} × ${show(stiffness.value, 'MPa')} = ${show(fall.value, 'bar')}`,
      ...(measured === undefined ? [] : [`Air, from ${show(added ?? 0, 'mL')} added: ${figure(percent, 3)} % at atmospheric pressure`]),
    ],
    chart: {
      x: { label: 'Trapped air at atmospheric pressure, %', scale: 'linear' },
      y: { label: 'Fall for that loss, bar', scale: 'log' },
      lines: [{ label: 'Fall for that loss', points: curve(0, Math.max(6, percent * 1.5), 'linear', fallWith) }],
      mark: { x: percent, y: fromSi(fall.value, 'bar'), label: show(fall.value, 'bar', 3) },
    },
  });
}

export const stiffness: Calculation = {
  id: 'stiffness',
  title: 'Stiffness and trapped air',
  about: 'How far the gauge falls for a small loss of water, and how much air hides it.',
  parameters: [
    {
      kind: 'choice',
      id: 'material',
      label: 'Pipe',
      help: '',
      usual: 'copper',
      options: (Object.keys(wallMaterials) as WallMaterial[]).map((value) => ({ value, label: wallMaterials[value].label })),
    },
    askQuantity('outside', 'Outside diameter', 'length', 'mm', '22', ['2', '4000']),
    askQuantity('wall', 'Wall', 'length', 'mm', '0.9', ['0.1', '500']),
    askQuantity('aluminium', 'Aluminium layer', 'length', 'mm', '', ['0.05', '5'], '0.2 mm when left empty.', {
      optional: true,
      askedFor: { answer: 'material', is: ['multilayer'] },
    }),
    askQuantity('volume', 'Water in the system', 'volume', 'L', '100', ['0.01', '10000000']),
    askQuantity('pressure', 'Test pressure', 'pressure', 'bar', '5', ['0', '200']),
    askQuantity('loss', 'Loss to be seen', 'volume', 'mL', '10', ['0.001', '100000000']),
    askQuantity('air', 'Trapped air at atmospheric pressure', 'share', '%', '0', ['0', '50'], 'Or let the water added tell.'),
    askQuantity(
      'added',
      'Water added',
      'volume',
      'mL',
      '',
      ['0', '1000000000'],
      'Pump strokes × stroke, to raise from the pressure below to the test pressure.',
      { optional: true },
    ),
    askQuantity('from', 'raised from', 'pressure', 'bar', '', ['0', '200'], '', { optional: true }),
  ],
  validity: [
    'Water at about 20 °C in a pipe of one kind; air at one temperature.',
    'PE, PEX and multilayer creep: their hold falls without a leak.',
  ],
  compute,
};
