/** Roles, and what each may do. The server refuses by this table and the interface offers by it. */
export const roles = ['technician', 'supervisor', 'office'] as const;
export type Role = (typeof roles)[number];

export const isRole = (text: unknown): text is Role => (roles as readonly unknown[]).includes(text);

interface Allowed {
  readonly roles: readonly Role[];
  /** What somebody else is told. */
  readonly refused: string;
}

const hands = ['technician', 'supervisor'] as const;

export const actions = {
  read: { roles, refused: 'Your role cannot read this.' },
  'run tests': { roles: hands, refused: 'Your role cannot run tests. Ask a technician or a supervisor.' },
  seal: { roles: hands, refused: 'Your role cannot sign for or seal a certificate. Ask a technician or a supervisor.' },
  correct: { roles: ['supervisor'], refused: 'Only a supervisor corrects a certificate.' },
  'edit sites': { roles, refused: 'Your role cannot change sites and systems.' },
  'edit instruments': { roles, refused: 'Your role cannot change instruments.' },
  send: { roles, refused: 'Your role cannot send papers.' },
  'set firm': { roles: ['supervisor', 'office'], refused: 'Only supervisors and the office change what the firm states of itself.' },
  exchange: { roles: ['supervisor'], refused: 'Only supervisors take the firm’s data out or in, and let other programs read it.' },
  'set rules': { roles: ['supervisor'], refused: 'Only supervisors set house rules and publish own procedures.' },
} as const satisfies Record<string, Allowed>;

export type Action = keyof typeof actions;

export const may = (role: Role, action: Action): boolean => (actions[action].roles as readonly Role[]).includes(role);
