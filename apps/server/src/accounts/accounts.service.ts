import { randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { howMany } from '@anchorbeat/core';
import type {
  AddMemberRequest,
  ChangePasswordRequest,
  CreateAccountRequest,
  MemberResponse,
  MemberRole,
  SignInRequest,
} from '@anchorbeat/contract';
import { IsNull, Not, Repository, type EntityManager } from 'typeorm';
import { SerialWriter } from '../database/connection.ts';
import { EnsembleEntity } from '../database/entities.ts';
import { AccountEntity, MemberEntity, SignInEntity } from '../database/peopleEntities.ts';
import { forbidden, invalid, notFound, signInFirst, tooMany } from '../problems/problemException.ts';
import { LOCAL_ACCOUNT, type AccountIdentity } from './access.service.ts';
import { Departures } from './departures.ts';
import { hashedPassword, isPassword } from './passwords.ts';
import { SignInsService, type NewSignIn } from './signIns.service.ts';
import { Tries } from './tries.ts';

const TRIES_A_MINUTE = 5;
const TRIES_OF_ADDRESS_A_MINUTE = 20;

/** Accounts, and who leads which ensemble. */
@Injectable()
export class AccountsService {
  private readonly triesOfName = new Tries(TRIES_A_MINUTE, 60_000);
  private readonly triesOfAddress = new Tries(TRIES_OF_ADDRESS_A_MINUTE, 60_000);

  constructor(
    @InjectRepository(AccountEntity) private readonly accounts: Repository<AccountEntity>,
    @InjectRepository(MemberEntity) private readonly members: Repository<MemberEntity>,
    private readonly writer: SerialWriter,
    private readonly signIns: SignInsService,
    private readonly departures: Departures,
  ) {}

  /** Whether anybody can sign in with a password. */
  hasAccounts(): Promise<boolean> {
    return this.accounts.existsBy({ passwordHash: Not(IsNull()) });
  }

  /** @throws ProblemException 401 for a wrong name or password, 429 where it is tried too often. */
  async signIn({ name, password }: SignInRequest, request: IncomingMessage): Promise<NewSignIn> {
    const key = nameKey(name);
    const address = request.socket.remoteAddress ?? '';
    const wait = Math.max(this.triesOfName.waitSeconds(key), this.triesOfAddress.waitSeconds(address));
    mayTry(wait);
    // Counted before it is looked at, so that many at once are many.
    this.triesOfName.add(key);
    this.triesOfAddress.add(address);
    const account = await this.accounts.findOneBy({ name: key });
    if (!(await isPassword(password, account?.passwordHash ?? null)) || !account)
      throw signInFirst('This name and password do not belong together');
    this.triesOfName.forget(key);
    return this.signIns.create(account.id, request);
  }

  /**
   * Changes the password of an account, which is signed out everywhere but where it asks.
   * @throws ProblemException 422 for a wrong password, 429 where it is tried too often.
   */
  async changePassword(
    { accountId, signInId }: AccountIdentity,
    wanted: ChangePasswordRequest,
  ): Promise<void> {
    const account = await this.accounts.findOneByOrFail({ id: accountId });
    if (account.passwordHash === null) throw forbidden('Nobody has an account here yet: make the first one');
    mayTry(this.triesOfName.waitSeconds(account.name));
    this.triesOfName.add(account.name);
    if (!(await isPassword(wanted.password, account.passwordHash)))
      throw invalid([{ field: 'password', message: 'This is not the password you have now' }]);
    this.triesOfName.forget(account.name);
    const passwordHash = await hashedPassword(wanted.newPassword);
    const ended = await this.writer.run(async (manager) => {
      await manager.update(AccountEntity, { id: accountId }, { passwordHash });
      const others = { accountId, id: Not(signInId) };
      const rows = await manager.findBy(SignInEntity, others);
      await manager.delete(SignInEntity, others);
      return rows;
    });
    for (const { id } of ended) this.departures.tell({ kind: 'signIn', signInId: id });
  }

  /** Signs in whoever sits at the machine, while nobody has an account. */
  async openHere(request: IncomingMessage): Promise<NewSignIn> {
    if (await this.hasAccounts())
      throw forbidden('This server has accounts now: sign in with your name and password');
    await this.writer.run(async (manager) => {
      const row = { id: LOCAL_ACCOUNT, name: LOCAL_ACCOUNT, displayName: 'At this machine' };
      if (!(await manager.existsBy(AccountEntity, { id: LOCAL_ACCOUNT })))
        await manager.insert(AccountEntity, {
          ...row,
          passwordHash: null,
          createdAt: new Date().toISOString(),
        });
      await leadAll(manager, LOCAL_ACCOUNT);
    });
    return this.signIns.create(LOCAL_ACCOUNT, request);
  }

  /** Makes the first account: it directs every ensemble there is, and the machine alone opens nothing any more. */
  async setUp(wanted: CreateAccountRequest, request: IncomingMessage): Promise<NewSignIn> {
    const passwordHash = await hashedPassword(wanted.password);
    const id = randomUUID();
    await this.writer.run(async (manager) => {
      if (await manager.existsBy(AccountEntity, { passwordHash: Not(IsNull()) }))
        throw forbidden('The first account is made already: sign in with it');
      await manager.insert(AccountEntity, accountRow(id, wanted, passwordHash));
      await manager.delete(SignInEntity, { accountId: LOCAL_ACCOUNT });
      await manager.delete(MemberEntity, { accountId: LOCAL_ACCOUNT });
      await leadAll(manager, id);
    });
    return this.signIns.create(id, request);
  }

  /** Directors first, each part by name. */
  async listMembers(ensembleId: string): Promise<MemberResponse[]> {
    const members = await this.members.findBy({ ensembleId });
    const accounts = await this.accounts.find();
    const listed = members.flatMap(({ accountId, role }) => {
      const account = accounts.find(({ id }) => id === accountId);
      return account ? [{ accountId, name: account.name, displayName: account.displayName, role }] : [];
    });
    const place = ({ role, displayName, name }: MemberResponse) =>
      `${role === 'director' ? 0 : 1} ${displayName} ${name}`;
    return listed.sort((a, b) => place(a).localeCompare(place(b)));
  }

  /** Adds somebody who leads; a name that has an account keeps its own password. */
  async addMember(ensembleId: string, wanted: AddMemberRequest): Promise<MemberResponse[]> {
    const passwordHash = await hashedPassword(wanted.password);
    const knownId = await this.writer.run(async (manager) => {
      const known = await manager.findOneBy(AccountEntity, { name: nameKey(wanted.name) });
      if (known?.passwordHash === null)
        throw invalid([
          { field: 'name', message: 'This name is taken by the program itself: choose another' },
        ]);
      const accountId = known?.id ?? randomUUID();
      if (!known) await manager.insert(AccountEntity, accountRow(accountId, wanted, passwordHash));
      await putPart(manager, { ensembleId, accountId, role: wanted.role });
      return known?.id;
    });
    const members = await this.listMembers(ensembleId);
    return members.map((one) => (one.accountId === knownId ? { ...one, keepsPassword: true } : one));
  }

  /** Gives an account that there is its part. */
  async setPart(ensembleId: string, accountId: string, role: MemberRole): Promise<MemberResponse[]> {
    await this.writer.run(async (manager) => {
      if (!(await manager.existsBy(AccountEntity, { id: accountId, passwordHash: Not(IsNull()) })))
        throw notFound('account');
      await putPart(manager, { ensembleId, accountId, role });
    });
    return this.listMembers(ensembleId);
  }

  async removeMember(ensembleId: string, accountId: string): Promise<void> {
    await this.writer.run(async (manager) => {
      if (!(await manager.existsBy(MemberEntity, { ensembleId, accountId }))) throw notFound('member');
      await manager.delete(MemberEntity, { ensembleId, accountId });
      await stayLed(manager, ensembleId);
    });
    this.departures.tell({ kind: 'member', accountId, ensembleId });
  }
}

function mayTry(waitSeconds: number): void {
  if (waitSeconds > 0)
    throw tooMany(`Too many tries; try again in ${howMany(waitSeconds, 'second')}`, waitSeconds);
}

/** What is typed to sign in, whatever the case of its letters. */
export function nameKey(name: string): string {
  return name.normalize('NFKC').trim().toLowerCase();
}

function accountRow(id: string, { name, displayName }: CreateAccountRequest, passwordHash: string) {
  return { id, name: nameKey(name), displayName, passwordHash, createdAt: new Date().toISOString() };
}

/** Makes an account director of every ensemble that has none. */
async function leadAll(manager: EntityManager, accountId: string): Promise<void> {
  const led = new Set((await manager.find(MemberEntity)).map(({ ensembleId }) => ensembleId));
  for (const { id: ensembleId } of await manager.find(EnsembleEntity))
    if (!led.has(ensembleId)) await manager.insert(MemberEntity, { ensembleId, accountId, role: 'director' });
}

async function putPart(manager: EntityManager, member: MemberEntity): Promise<void> {
  await manager.upsert(MemberEntity, member, ['ensembleId', 'accountId']);
  await stayLed(manager, member.ensembleId);
}

/** An ensemble never loses its last director. */
async function stayLed(manager: EntityManager, ensembleId: string): Promise<void> {
  if (!(await manager.existsBy(MemberEntity, { ensembleId, role: 'director' })))
    throw invalid([
      { field: 'role', message: 'An ensemble keeps at least one director: name another first' },
    ]);
}
