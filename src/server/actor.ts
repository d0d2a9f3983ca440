/** Who asks, and what each role may do. Deciding is apart from loading. */
export const roles = ['technician', 'supervisor', 'office'] as const;
export type Role = (typeof roles)[number];

export interface Actor {
  readonly userId: string;
  readonly firmId: string;
  readonly name: string;
  readonly role: Role;
}

export type Permission = 'run tests' | 'seal' | 'correct' | 'edit sites' | 'edit instruments' | 'set rules';

const allowed: Record<Role, readonly Permission[]> = {
  technician: ['run tests', 'seal', 'edit sites'],
  supervisor: ['run tests', 'seal', 'correct', 'edit sites', 'edit instruments', 'set rules'],
  office: ['edit sites', 'edit instruments'],
};

export const may = (role: Role, permission: Permission): boolean => allowed[role].includes(permission);
