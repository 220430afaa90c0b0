/** Whoever speaks to a server. A stand has joined one rehearsal by its code; nobody has not signed in. */
export const ROLES = ['director', 'coDirector', 'stand', 'nobody'] as const;
export type Role = (typeof ROLES)[number];

/** What there is to do, as far as who may do it differs. */
export const ROLE_ACTIONS = [
  /** Read and change pieces, drills, log and plans of the ensemble. */
  'keepPieces',
  /** Read who leads it. */
  'seeMembers',
  /** Name the ensemble, add and remove those who lead it. */
  'keepMembers',
  /** Make and end a room, its code, what its sections hear and are told. */
  'keepRoom',
  /** Start, stop, change and cue a run in the room. */
  'lead',
  /** Say of its own stand what it plays, hears and how well it is locked. */
  'keepOwnStand',
  /** Read the pieces that the room shares. */
  'readShared',
] as const;
export type RoleAction = (typeof ROLE_ACTIONS)[number];

const MAY: Readonly<Record<Role, readonly RoleAction[]>> = {
  director: [...ROLE_ACTIONS],
  coDirector: ['keepPieces', 'seeMembers', 'keepRoom', 'keepOwnStand', 'readShared'],
  stand: ['keepOwnStand', 'readShared'],
  nobody: [],
};

/** Whether a role may do something. A co-director leads where the room lets co-directors. */
export function mayDo(role: Role, action: RoleAction, { coDirectorsLead = false } = {}): boolean {
  return MAY[role].includes(action) || (role === 'coDirector' && action === 'lead' && coDirectorsLead);
}
