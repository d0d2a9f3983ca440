export const disturbanceKinds = [
  'gas used',
  'water drawn',
  'valve moved',
  'gauge touched',
  'sun on the pipe',
  'vibration',
  'other',
] as const;
export type DisturbanceKind = (typeof disturbanceKinds)[number];
