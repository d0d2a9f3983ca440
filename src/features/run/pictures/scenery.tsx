import type { Phase, Scene } from '@/core/course';
import { itemsOf, type Judgement, outcomeOf, type RunEvent, type Traced } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { AirPicture } from './air-picture';
import { ApplianceRound } from './appliance-round';
import { BandsPicture } from './bands-picture';
import { DialPicture } from './dial-picture';
import { DyePicture } from './dye-picture';
import { FlowPicture } from './flow-picture';
import { LineMap } from './line-map';
import { LoopList } from './loop-list';
import { MakeUpPicture } from './make-up-picture';
import { type Box, stateOf } from './scene';

export interface SceneProps<P extends Phase = Phase> {
  readonly plan: Plan;
  readonly phase: P;
  readonly judgement: Judgement;
  readonly events: readonly RunEvent[];
  readonly traced: readonly Traced[];
  readonly box: Box;
}

/** The picture of a phase that is not a pressure against time. */
export function Scenery({ scene, ...props }: SceneProps & { readonly scene: Scene }) {
  const { phase, judgement } = props;
  const state = stateOf(judgement, phase.id);
  const seen = outcomeOf(state);
  switch (scene) {
    case 'dial':
      return phase.kind === 'hold' ? <DialPicture {...props} phase={phase} /> : null;
    case 'flow':
      return phase.kind === 'measure' ? <FlowPicture {...props} phase={phase} /> : null;
    case 'make-up':
      return phase.kind === 'measure' ? <MakeUpPicture {...props} phase={phase} /> : null;
    case 'air':
      return phase.kind === 'measure' ? <AirPicture {...props} phase={phase} /> : null;
    case 'bands':
      return phase.kind === 'measure' ? <BandsPicture {...props} phase={phase} /> : null;
    case 'dye':
      return <DyePicture box={props.box} {...(seen === undefined ? {} : { seen })} />;
    case 'line map':
      return <LineMap {...props} />;
    case 'loops':
      return phase.kind === 'check' ? <LoopList phase={phase} box={props.box} done={itemsOf(state)} /> : null;
    case 'appliance round':
      return phase.kind === 'check' ? <ApplianceRound {...props} phase={phase} /> : null;
    case 'trace':
      return null;
  }
}
