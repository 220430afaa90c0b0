import { randomUUID } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { SignInResponse } from '@anchorbeat/contract';
import { Repository } from 'typeorm';
import { SerialWriter } from '../database/connection.ts';
import { SignInEntity } from '../database/peopleEntities.ts';
import { Departures } from './departures.ts';
import { hashOf, newToken } from './tokens.ts';

const COOKIE = 'anchorbeat';
const LIFE_MS = 30 * 86_400_000;
/** When somebody was seen last is written down no more often than this. */
const SEEN_EVERY_MS = 600_000;

/** A new sign-in, and the cookie by which its browser is known. */
export interface NewSignIn {
  readonly cookie: string;
}

/** Which browser is signed in as whom. */
@Injectable()
export class SignInsService {
  constructor(
    @InjectRepository(SignInEntity) private readonly signIns: Repository<SignInEntity>,
    private readonly writer: SerialWriter,
    private readonly departures: Departures,
  ) {}

  async create(accountId: string, request: IncomingMessage): Promise<NewSignIn> {
    const token = newToken();
    const now = new Date();
    const at = now.toISOString();
    await this.writer.run(async (manager) => {
      await manager.query('DELETE FROM sign_ins WHERE expires_at < ?', [at]);
      await manager.insert(SignInEntity, {
        id: randomUUID(),
        tokenHash: hashOf(token),
        accountId,
        device: deviceName(request.headers['user-agent'] ?? ''),
        createdAt: at,
        lastSeenAt: at,
        expiresAt: new Date(now.getTime() + LIFE_MS).toISOString(),
      });
    });
    return { cookie: cookieText(token, request, LIFE_MS / 1000) };
  }

  /** The sign-in that a request's cookie stands for; null where there is none, or it is over. */
  async ofMaybe(request: IncomingMessage): Promise<SignInEntity | null> {
    const token = cookieMaybe(request);
    const row = token === null ? null : await this.signIns.findOneBy({ tokenHash: hashOf(token) });
    const now = new Date();
    if (!row || row.expiresAt < now.toISOString()) return null;
    if (now.getTime() - Date.parse(row.lastSeenAt) > SEEN_EVERY_MS)
      await this.writer.run((manager) =>
        manager.update(SignInEntity, { id: row.id }, { lastSeenAt: now.toISOString() }),
      );
    return row;
  }

  async list(accountId: string, thisId: string): Promise<SignInResponse[]> {
    const rows = await this.signIns.find({ where: { accountId }, order: { lastSeenAt: 'DESC' } });
    return rows.map(({ id, device, createdAt, lastSeenAt }) => ({
      id,
      device,
      since: createdAt,
      lastSeen: lastSeenAt,
      isThis: id === thisId,
    }));
  }

  async end(accountId: string, id: string): Promise<void> {
    const { affected } = await this.writer.run((manager) => manager.delete(SignInEntity, { id, accountId }));
    if (affected) this.departures.tell({ kind: 'signIn', signInId: id });
  }

  /** The cookie that takes the other one away. */
  endedCookie(request: IncomingMessage): string {
    return cookieText('', request, 0);
  }
}

function cookieText(token: string, request: IncomingMessage, maxAgeSeconds: number): string {
  const secure = 'encrypted' in request.socket ? '; Secure' : '';
  return `${COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${maxAgeSeconds}${secure}`;
}

function cookieMaybe({ headers }: IncomingMessage): string | null {
  for (const part of (headers.cookie ?? '').split(';')) {
    const [name, value = ''] = part.trim().split('=', 2);
    if (name === COOKIE && /^[\w-]{20,100}$/.test(value)) return value;
  }
  return null;
}

/** "Firefox on Linux": what one knows a browser by in a list. */
function deviceName(agent: string): string {
  const browser =
    /(Firefox|Edg|Chrome|Safari)/.exec(agent.replace(/Edg\//, 'Edg '))?.[1]?.replace('Edg', 'Edge') ??
    'A browser';
  const system = /(iPhone|iPad|Android|Windows|Mac OS X|Linux)/.exec(agent)?.[1];
  return system ? `${browser} on ${system}` : browser;
}
