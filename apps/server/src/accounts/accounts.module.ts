import { Body, Controller, Delete, Get, HttpCode, Module, Param, Post, Put, Req, Res } from '@nestjs/common';
import { uuidParam } from '../http/uuidParam.ts';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import {
  AddMemberRequest,
  ChangePasswordRequest,
  CreateAccountRequest,
  MemberPartRequest,
  SignInRequest,
  type SessionResponse,
} from '@anchorbeat/contract';
import type { Request, Response } from 'express';
import { DatabaseModule } from '../database/database.module.ts';
import { forbidden } from '../problems/problemException.ts';
import { Needs, NeedsAccount, Open, Who } from './access.guard.ts';
import { AccessService, type AccountIdentity, type Identity } from './access.service.ts';
import { AccountsService } from './accounts.service.ts';
import { Departures } from './departures.ts';
import { isFromHere } from './loopback.ts';
import { SignInsService, type NewSignIn } from './signIns.service.ts';

const NOT_FROM_HERE = 'This is done at the machine on which Anchorbeat runs';

@ApiTags('session')
@Controller('api/session')
class SessionController {
  constructor(
    private readonly accounts: AccountsService,
    private readonly access: AccessService,
    private readonly signIns: SignInsService,
  ) {}

  @Get()
  @Open()
  @ApiOperation({ summary: 'Who is signed in in this browser, and how one may' })
  async get(@Who() who: Identity, @Req() request: Request): Promise<SessionResponse> {
    const isUnset = isFromHere(request) && !(await this.accounts.hasAccounts());
    return {
      signedIn: who.kind === 'account' ? this.access.asSignedIn(who) : null,
      canOpenHere: isUnset,
      canSetUp: isUnset,
    };
  }

  @Post()
  @Open()
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign in with a name and a password' })
  @ApiBody({ schema: { $ref: '#/components/schemas/SignInRequest' } })
  async signIn(
    @Body() body: SignInRequest,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    setCookie(response, await this.accounts.signIn(body, request));
  }

  @Post('here')
  @Open()
  @HttpCode(204)
  @ApiOperation({ summary: 'Open the server from its own machine, while nobody has an account' })
  async openHere(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    if (!isFromHere(request)) throw forbidden(NOT_FROM_HERE);
    setCookie(response, await this.accounts.openHere(request));
  }

  @Post('first-account')
  @Open()
  @HttpCode(204)
  @ApiOperation({ summary: 'Make the first account, from the machine of the server' })
  @ApiBody({ schema: { $ref: '#/components/schemas/CreateAccountRequest' } })
  async setUp(
    @Body() body: CreateAccountRequest,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    if (!isFromHere(request)) throw forbidden(NOT_FROM_HERE);
    setCookie(response, await this.accounts.setUp(body, request));
  }

  @Delete()
  @NeedsAccount()
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign out in this browser' })
  async signOut(
    @Who() who: AccountIdentity,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.signIns.end(who.accountId, who.signInId);
    response.setHeader('Set-Cookie', this.signIns.endedCookie(request));
  }

  @Put('password')
  @NeedsAccount()
  @HttpCode(204)
  @ApiOperation({ summary: 'Change your password; everywhere else you are signed out' })
  @ApiBody({ schema: { $ref: '#/components/schemas/ChangePasswordRequest' } })
  changePassword(@Who() who: AccountIdentity, @Body() body: ChangePasswordRequest): Promise<void> {
    return this.accounts.changePassword(who, body);
  }

  @Get('places')
  @NeedsAccount()
  @ApiOperation({ summary: 'Where this account is signed in' })
  places(@Who() who: AccountIdentity) {
    return this.signIns.list(who.accountId, who.signInId);
  }

  @Delete('places/:signInId')
  @NeedsAccount()
  @HttpCode(204)
  @ApiOperation({ summary: 'Sign out somewhere else' })
  endPlace(@Who() who: AccountIdentity, @uuidParam('signInId') id: string) {
    return this.signIns.end(who.accountId, id);
  }
}

@ApiTags('members')
@Controller('api/ensembles/:ensembleId/members')
@Needs('keepMembers')
class MembersController {
  constructor(private readonly accounts: AccountsService) {}

  @Get()
  @Needs('seeMembers')
  @ApiOperation({ summary: 'Who leads an ensemble' })
  list(@Param('ensembleId') ensembleId: string) {
    return this.accounts.listMembers(ensembleId);
  }

  @Post()
  @ApiOperation({ summary: 'Add somebody who leads it, or change their part' })
  @ApiBody({ schema: { $ref: '#/components/schemas/AddMemberRequest' } })
  add(@Param('ensembleId') ensembleId: string, @Body() body: AddMemberRequest) {
    return this.accounts.addMember(ensembleId, body);
  }

  @Put(':accountId')
  @ApiOperation({ summary: 'Change the part of an account, or take it in again' })
  @ApiBody({ schema: { $ref: '#/components/schemas/MemberPartRequest' } })
  setPart(
    @Param('ensembleId') ensembleId: string,
    @uuidParam('accountId') accountId: string,
    @Body() { role }: MemberPartRequest,
  ) {
    return this.accounts.setPart(ensembleId, accountId, role);
  }

  @Delete(':accountId')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take somebody out; an ensemble keeps a director' })
  remove(@Param('ensembleId') ensembleId: string, @Param('accountId') accountId: string) {
    return this.accounts.removeMember(ensembleId, accountId);
  }
}

function setCookie(response: Response, { cookie }: NewSignIn): void {
  response.setHeader('Set-Cookie', cookie);
}

@Module({
  imports: [DatabaseModule],
  controllers: [SessionController, MembersController],
  providers: [AccessService, AccountsService, Departures, SignInsService],
  exports: [AccessService, AccountsService, Departures],
})
export class AccountsModule {}
