import { Injectable } from '@nestjs/common';
import type { StandTake } from '@anchorbeat/contract';
import { Siblings } from './siblings.ts';

/** What the stands of each room played along with its last run. Not kept: who leads takes it into the log. */
@Injectable()
export class Takes {
  private readonly rooms = new Map<
    string,
    { readonly runId: string; readonly takes: Map<string, StandTake> }
  >();

  constructor(private readonly siblings: Siblings) {
    siblings.onNews((news) => {
      if (news.kind === 'take') this.put(news.roomId, news.take);
      else if (news.kind === 'ended') this.forget(news.roomId);
    });
  }

  /** A stand's take of a run; sent anew it takes the place of the one before. */
  took(roomId: string, take: StandTake): void {
    this.put(roomId, take);
    this.siblings.send({ kind: 'take', roomId, take });
  }

  private put(roomId: string, take: StandTake): void {
    const known = this.rooms.get(roomId);
    const room =
      known?.runId === take.runId ? known : { runId: take.runId, takes: new Map<string, StandTake>() };
    room.takes.set(take.standId, take);
    this.rooms.set(roomId, room);
  }

  list(roomId: string): readonly StandTake[] {
    return [...(this.rooms.get(roomId)?.takes.values() ?? [])];
  }

  forget(roomId: string): void {
    this.rooms.delete(roomId);
  }
}
