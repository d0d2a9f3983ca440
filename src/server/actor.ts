import { type Action, actions, may, type Role } from '@/core/permissions';
import { type Answer, refuse } from './answers';

/** Who asks. */
export interface Actor {
  /** Account id: what stands as the author of everything that this person writes. */
  readonly userId: string;
  readonly firmId: string;
  readonly name: string;
  readonly role: Role;
  /** The known device that their session was begun on. */
  readonly deviceId?: string;
  /** Signed in no more: only what was written up to then is taken, and nothing is shown. */
  readonly delivers?: { readonly until: number };
}

/** Why somebody may not do it; undefined where they may. Every command asks, whichever way it was reached. */
export const refusedTo = (actor: Actor, action: Action): Answer<never> | undefined =>
  may(actor.role, action) ? undefined : refuse(403, 'not-allowed', actions[action].refused);
