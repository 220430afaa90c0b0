import {
  createParamDecorator,
  Injectable,
  NotFoundException,
  SetMetadata,
  type CanActivate,
  type ExecutionContext,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ACCOUNT_HEADER } from '@anchorbeat/contract';
import type { RoleAction } from '@anchorbeat/core';
import { isUUID } from 'class-validator';
import type { Request } from 'express';
import { forbidden, notFound, signInFirst } from '../problems/problemException.ts';
import { AccessService, NOBODY, type Identity } from './access.service.ts';

type Need = RoleAction | 'nothing' | 'server' | 'account' | 'stand';
const NEED = 'need';

/** What whoever asks this must be allowed to do, in the ensemble that the address or the request names. */
export const Needs = (action: RoleAction) => SetMetadata(NEED, action satisfies Need);
/** Asked by anybody: health, signing in, joining by a code. */
export const Open = () => SetMetadata(NEED, 'nothing' satisfies Need);
/** Asked by any account; the answer holds only what its ensembles have. */
export const NeedsAccount = () => SetMetadata(NEED, 'account' satisfies Need);
/** Asked by who directs every ensemble of the server. */
export const NeedsServer = () => SetMetadata(NEED, 'server' satisfies Need);
/** Asked by a stand with its token. */
export const NeedsStand = () => SetMetadata(NEED, 'stand' satisfies Need);

type KnownRequest = Request & { identity?: Identity };

/** Who asks. */
export const Who = createParamDecorator(
  (_data: unknown, context: ExecutionContext): Identity =>
    context.switchToHttp().getRequest<KnownRequest>().identity ?? NOBODY,
);

/** Lets through what whoever asks may do. What nothing is said of needs the right to the pieces of its ensemble. */
@Injectable()
export class AccessGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly access: AccessService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    if (context.getType() !== 'http') return true;
    const need =
      this.reflector.getAllAndOverride<Need | undefined>(NEED, [context.getHandler(), context.getClass()]) ??
      'keepPieces';
    const request = context.switchToHttp().getRequest<KnownRequest>();
    const identity = await this.access.identityOf(request, standTokenMaybe(request));
    request.identity = identity;
    if (need === 'nothing') return true;
    if (identity.kind === 'nobody')
      throw signInFirst('Sign in to this Anchorbeat first, or join the rehearsal with its code');
    if (identity.kind === 'account' && !isAskedFor(request, identity.accountId))
      throw signInFirst('Somebody else has signed in here since');
    if (need === 'stand') return this.required(identity.kind === 'stand');
    if (need === 'account') return this.required(identity.kind === 'account');
    if (need === 'server')
      return this.required(
        await this.access.keepsServer(identity),
        'This is for who directs every ensemble of this server',
      );
    return this.inEnsemble(identity, need, request);
  }

  private async inEnsemble(identity: Identity, need: RoleAction, request: Request): Promise<boolean> {
    const ensembleId = await this.ensembleOf(request);
    if (this.access.roleIn(identity, ensembleId) === 'nobody') throw notFound('place in your ensembles');
    return this.required(this.access.may(identity, need, ensembleId));
  }

  /** The ensemble that a request is about. */
  private async ensembleOf({ params, body }: Request): Promise<string> {
    const text = (value: unknown) => (typeof value === 'string' ? value : '');
    const { pieceId, ensembleId, roomId } = params;
    if (pieceId !== undefined) {
      if (!isUUID(pieceId)) throw new NotFoundException();
      const known = await this.access.ensembleOfPieceMaybe(text(pieceId));
      if (known === null) throw notFound('piece');
      return known;
    }
    if (roomId !== undefined) {
      const known = await this.access.ensembleOfRoomMaybe(text(roomId));
      if (known === null) throw notFound('rehearsal');
      return known;
    }
    return text(ensembleId) || text((body as { ensembleId?: unknown } | undefined)?.ensembleId);
  }

  private required(
    isAllowed: boolean,
    detail = 'Your part in this ensemble does not include this; ask its director',
  ): true {
    if (!isAllowed) throw forbidden(detail);
    return true;
  }
}

/** Whether a page asks for this account, or does not say for which. */
function isAskedFor({ headers }: Request, accountId: string): boolean {
  return (headers[ACCOUNT_HEADER.toLowerCase()] ?? accountId) === accountId;
}

function standTokenMaybe({ headers }: Request): string | null {
  return /^Bearer ([\w-]{20,100})$/.exec(headers.authorization ?? '')?.[1] ?? null;
}
