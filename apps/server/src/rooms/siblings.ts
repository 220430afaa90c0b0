import { Injectable } from '@nestjs/common';
import type { StandReport } from '@anchorbeat/core';
import type { StandTake } from '@anchorbeat/contract';
import type { Server } from 'socket.io';
import type { Departure } from '../accounts/departures.ts';

/** A stand as the process knows it that holds its socket. */
export interface KnownStand {
  readonly section: string;
  readonly name: string;
  readonly report: StandReport;
  readonly isConnected: boolean;
}

/** What processes that serve the same rooms tell each other. What is kept is in the database, and is told by nobody. */
export type News =
  /** Null for a stand that was taken out. */
  | {
      readonly kind: 'stand';
      readonly roomId: string;
      readonly standId: string;
      readonly stand: KnownStand | null;
    }
  | { readonly kind: 'take'; readonly roomId: string; readonly take: StandTake }
  | { readonly kind: 'ended'; readonly roomId: string }
  | { readonly kind: 'departed'; readonly gone: Departure };

const EVENT = 'news';

/** The other processes that serve the same rooms; without Redis there are none. */
@Injectable()
export class Siblings {
  private server: Pick<Server, 'serverSideEmit' | 'on'> | null = null;
  private readonly listeners: Array<(news: News) => void> = [];

  /** Whether other processes may act on the same rooms. */
  get mayBeThere(): boolean {
    return this.server !== null;
  }

  /** Called where sockets go through Redis. */
  meet(server: Pick<Server, 'serverSideEmit' | 'on'>): void {
    this.server = server;
    server.on(EVENT, (news: News) => {
      for (const listener of this.listeners) listener(news);
    });
  }

  send(news: News): void {
    this.server?.serverSideEmit(EVENT, news);
  }

  onNews(listener: (news: News) => void): void {
    this.listeners.push(listener);
  }
}
