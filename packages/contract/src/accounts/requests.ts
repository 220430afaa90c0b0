import { IsIn, IsString, Length, Matches, MaxLength } from 'class-validator';
import { MEMBER_ROLES, type MemberRole } from './responses.ts';

/** Short enough for a sentence, long enough for anybody. */
const MAX_NAME = 80;
export const SHORTEST_PASSWORD = 10;
export const LONGEST_PASSWORD = 200;
const SIGN_IN_NAME = /^[\p{L}\p{N}][\p{L}\p{N}._@+-]{1,79}$/u;
export const PASSWORD_WORDS = `A password has ${SHORTEST_PASSWORD} to ${LONGEST_PASSWORD} characters; three or four words are a good one`;

/**
 * A page says with it for which account it asks. Where another is signed in by then nothing is done: what one person did is
 * never taken for what another did, in the moment before the page knows of them either.
 */
export const ACCOUNT_HEADER = 'Anchorbeat-Account';

/** Signs in with a name and a password. */
export class SignInRequest {
  @IsString()
  @MaxLength(MAX_NAME)
  readonly name!: string;

  @IsString()
  @MaxLength(LONGEST_PASSWORD)
  readonly password!: string;
}

/** A new account: who it is, and what is typed to sign in. */
export class CreateAccountRequest {
  @IsString()
  @Matches(SIGN_IN_NAME, {
    message: 'A name to sign in with has 2 to 80 letters, figures, dots, dashes, + or @, and no spaces',
  })
  readonly name!: string;

  @IsString()
  @Length(1, MAX_NAME)
  readonly displayName!: string;

  @IsString()
  @Length(SHORTEST_PASSWORD, LONGEST_PASSWORD, { message: PASSWORD_WORDS })
  readonly password!: string;
}

/** Another password for one's own account. */
export class ChangePasswordRequest {
  /** The one that holds now. */
  @IsString()
  @MaxLength(LONGEST_PASSWORD)
  readonly password!: string;

  @IsString()
  @Length(SHORTEST_PASSWORD, LONGEST_PASSWORD, { message: PASSWORD_WORDS })
  readonly newPassword!: string;
}

/** One who leads an ensemble beside its director; where the name has no account yet one is made. */
export class AddMemberRequest extends CreateAccountRequest {
  @IsIn(MEMBER_ROLES)
  readonly role!: MemberRole;
}

/** The part of an account in an ensemble, which takes it in where it has none. */
export class MemberPartRequest {
  @IsIn(MEMBER_ROLES)
  readonly role!: MemberRole;
}
