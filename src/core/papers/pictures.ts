import { type Phase, type Scene, sceneOf } from '../course';
import { dialPicture, type Picture, type Pictured, tracePicture } from './hold-pictures';
import { dyePicture, lineMap, loopPicture } from './look-pictures';
import { airPicture, bandsPicture, flowPicture, makeUpPicture } from './measure-pictures';

export type { Picture, Pictured } from './hold-pictures';

type Draw = (phase: Phase, given: Pictured) => Picture | undefined;

const hold =
  (draw: (phase: Extract<Phase, { kind: 'hold' }>, given: Pictured) => Picture | undefined): Draw =>
  (phase, given) =>
    phase.kind === 'hold' ? draw(phase, given) : undefined;
const measure =
  (draw: (phase: Extract<Phase, { kind: 'measure' }>, given: Pictured) => Picture | undefined): Draw =>
  (phase, given) =>
    phase.kind === 'measure' ? draw(phase, given) : undefined;

/** The picture of each kind of test; the compiler misses none. An appliance round stands on the paper as its cards. */
const pictures: Readonly<Record<Scene, Draw>> = {
  trace: hold((phase, given) => tracePicture(phase, given, false)),
  level: hold((phase, given) => tracePicture(phase, given, true)),
  dial: hold(dialPicture),
  flow: measure(flowPicture),
  'make-up': measure(makeUpPicture),
  air: measure(airPicture),
  bands: measure(bandsPicture),
  dye: (phase, given) => (phase.kind === 'observe' ? dyePicture(phase, given) : undefined),
  'line map': (_, given) => lineMap(given),
  loops: (phase, given) => (phase.kind === 'check' ? loopPicture(phase, given) : undefined),
  'appliance round': () => undefined,
};

/** The picture of a phase as it was left; none where it was not come to. */
export const pictureOf = (phase: Phase, given: Pictured): Picture | undefined => pictures[sceneOf(given.plan, phase)](phase, given);
