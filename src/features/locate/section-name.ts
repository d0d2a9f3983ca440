import type { Section } from '@/core/locating';

const beside: Readonly<Record<string, string>> = { rig: 'The rig', gauge: 'The gauge' };
/** What a section, the rig or the gauge is called; a log may name one that was since taken away. */
export const nameOf = (sections: readonly Section[], id: string): string =>
  sections.find((one) => one.id === id)?.name.split(',')[0] ?? beside[id] ?? 'A section since taken away';
