/** The fault that the example record of a procedure shows; a sound plant where none is named. */
export const exampleFaults: Readonly<Record<string, string>> = {
  'domestic-gas-millibar': 'small-leak',
  'meter-turn-on-inches': 'masked-leak',
  'gas-piping-psi': 'hidden-by-warming',
  'propane-tank-check': 'small-leak',
  'gas-leak-rate': 'reduced',
  'water-isolation-hold': 'water-drawn',
  'drain-level-hold': 'passing-ball',
  'vehicle-water-air': 'rig-leak',
  'underfloor-manifold': 'long-relaxing',
  'water-main-make-up': 'trapped-air',
  'pool-lines-pressure': 'fast-rise',
};
