/** Who leads an ensemble. */
export const MEMBER_ROLES = ['director', 'coDirector'] as const;
export type MemberRole = (typeof MEMBER_ROLES)[number];

export interface SignedIn {
  readonly accountId: string;
  readonly displayName: string;
  /** True for whoever sits at the machine of a server that has no accounts. */
  readonly isLocal: boolean;
  readonly roles: ReadonlyArray<{ readonly ensembleId: string; readonly role: MemberRole }>;
}

/** What this browser may do at this server, before anything else is asked. */
export interface SessionResponse {
  readonly signedIn: SignedIn | null;
  /** On this machine, while there is no account: one button opens the server. */
  readonly canOpenHere: boolean;
  /** On this machine, while there is no account: the first one can be made. */
  readonly canSetUp: boolean;
}

/** A place where an account is signed in. */
export interface SignInResponse {
  readonly id: string;
  readonly device: string;
  readonly since: string;
  readonly lastSeen: string;
  readonly isThis: boolean;
}

export interface MemberResponse {
  readonly accountId: string;
  readonly name: string;
  readonly displayName: string;
  readonly role: MemberRole;
  /** Said of who was just added and had an account before: the password that was sent for them is not theirs. */
  readonly keepsPassword?: true;
}
