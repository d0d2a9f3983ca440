import type { Criterion } from '../../procedures/phases';
import { atMostLimit } from './at-most';
import type { Ends, HoldContext, Moved } from './criterion';
import { dial } from './dial';
import { keep } from './keep';
import { leakRate } from './leak-rate';
import { noFall, noRise } from './movement';

export { contextOf, type Ends, type HoldContext, type Moved } from './criterion';
export { overLimit } from './movement';

/** Judges a hold that was read to its end by what its plan says decides it. A settling hold decides nothing. */
export function judgeMovement(context: HoldContext, criterion: Exclude<Criterion, { kind: 'wait' }>, ends: Ends): Moved {
  switch (criterion.kind) {
    case 'no-rise':
      return noRise(context, criterion, ends);
    case 'no-fall':
      return noFall(context, criterion, ends);
    case 'at-most':
      return atMostLimit(context, criterion, ends);
    case 'keep':
      return keep(context, criterion, ends);
    case 'leak-rate':
      return leakRate(context, criterion, ends);
    case 'dial':
      return dial(context, criterion, ends);
  }
}
