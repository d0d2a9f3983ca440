import { cardOf } from '../card';

/** The phases that the parts of this procedure name. */
export const card = cardOf({
  prepare: 'check',
  zero: 'zero',
  reopen: 'check',
  'let-by': 'no-rise',
  'let-by-seat': ['bubbles', 'dry'],
  'seat-remade': 'check',
  'let-by-again': 'no-rise',
  settle: 'wait',
  hold: 'no-fall',
  rig: ['dry', 'bubbles'],
  isolate: 'check',
  'let-by-pipework': 'no-rise',
  'settle-pipework': 'wait',
  'hold-pipework': 'no-fall',
  'rig-pipework': ['dry', 'bubbles'],
  'let-by-report': 'check',
  'smell-response': 'check',
  restore: 'check',
  'make-safe': 'check',
});
export type Names = typeof card.names;
