import { UseFilters, UsePipes } from '@nestjs/common';
import {
  ConnectedSocket,
  MessageBody,
  SubscribeMessage,
  WebSocketGateway,
  WebSocketServer,
  type OnGatewayConnection,
  type OnGatewayDisconnect,
  type OnGatewayInit,
} from '@nestjs/websockets';
import {
  mayDo,
  PLAIN_RUN,
  type RoleAction,
  type RoomAct,
  type RoomState,
  type RunSaying,
} from '@anchorbeat/core';
import {
  HandOutMessage,
  SharePiecesMessage,
  HearingMessage,
  OpenPieceMessage,
  RoomSettingsMessage,
  SayMessage,
  settingsIn,
  StandReportMessage,
  StartRunMessage,
  TakenMessage,
  TellMessage,
  type Answer,
  type ClockStamps,
  type RoomEvents,
} from '@anchorbeat/contract';
import type { DefaultEventsMap, Server, Socket } from 'socket.io';
import { AccessService, type Identity } from '../accounts/access.service.ts';
import { Departures, type Departure } from '../accounts/departures.ts';
import { SavedRevisions } from '../pieces/savedRevisions.ts';
import { forbidden, tooMany } from '../problems/problemException.ts';
import { validationPipe } from '../problems/validation.ts';
import { AnswerFilter } from './answerFilter.ts';
import { Presence } from './presence.ts';
import { RoomsService } from './rooms.service.ts';
import { serverNowMs } from './serverClock.ts';
import { Siblings, type News } from './siblings.ts';
import { Takes } from './takes.ts';

interface SocketData {
  identity: Identity;
  roomId: string;
  ensembleId: string;
  /** Messages of this second. */
  second: number;
  messages: number;
}

type RoomSocket = Socket<DefaultEventsMap, RoomEvents, DefaultEventsMap, SocketData>;

const PRESENCE_EVERY_MS = 500;
const MESSAGES_A_SECOND = 60;
const roomName = (roomId: string) => `room ${roomId}`;
const leadName = (roomId: string) => `lead ${roomId}`;
const standName = (standId: string) => `stand ${standId}`;
const DONE: Answer = { ok: true, value: null };

/** The rehearsal room: what is said on its sockets, by whom it may be said, and who is told. */
@WebSocketGateway()
@UsePipes(validationPipe())
@UseFilters(AnswerFilter)
export class RoomsGateway implements OnGatewayInit, OnGatewayConnection, OnGatewayDisconnect {
  @WebSocketServer() private readonly server!: Server<
    DefaultEventsMap,
    RoomEvents,
    DefaultEventsMap,
    SocketData
  >;
  private readonly presenceDue = new Set<string>();
  private presenceTimer: NodeJS.Timeout | null = null;

  constructor(
    private readonly rooms: RoomsService,
    private readonly access: AccessService,
    private readonly presence: Presence,
    private readonly departures: Departures,
    private readonly takes: Takes,
    private readonly siblings: Siblings,
    private readonly saved: SavedRevisions,
  ) {}

  afterInit(server: Server<DefaultEventsMap, RoomEvents, DefaultEventsMap, SocketData>): void {
    server.use((socket, next) => {
      this.admit(socket).then(
        () => next(),
        (error: unknown) => next(error instanceof Error ? error : new Error('refused')),
      );
    });
    this.departures.onDeparture((gone) => {
      this.endSocketsOf(gone);
      this.siblings.send({ kind: 'departed', gone });
    });
    this.saved.onSaved((saved) => {
      const tell = (roomId: string, state: RoomState) => server.to(roomName(roomId)).emit('room', state);
      // Where this fails the rehearsal goes on with what it had, until a podium puts the newer one there.
      this.rooms.renew(saved, tell).catch(() => undefined);
    });
    this.siblings.onNews((news) => this.heard(news));
    this.rooms.onChange((roomId, change) => {
      if (change === 'ended') {
        this.takes.forget(roomId);
        server.to(roomName(roomId)).emit('over', 'The director has ended this rehearsal');
        server.in(roomName(roomId)).disconnectSockets(true);
      } else {
        server.to(standName(change.goneStandId)).emit('over', 'The director has taken this stand out');
        server.in(standName(change.goneStandId)).disconnectSockets(true);
        this.tellPresence(roomId);
      }
    });
  }

  /** What another process has told: those who lead by way of this one are told in turn. */
  private heard(news: News): void {
    if (news.kind === 'stand') this.tellPresence(news.roomId);
    else if (news.kind === 'take') this.tellTakes(news.roomId);
    else if (news.kind === 'departed') this.endSocketsOf(news.gone);
  }

  /** Whoever has gone hears no more of the rooms they were in. */
  private endSocketsOf(gone: Departure): void {
    for (const socket of this.server.sockets.sockets.values()) {
      const { identity, ensembleId } = socket.data;
      if (identity.kind !== 'account') continue;
      const isGone =
        gone.kind === 'signIn'
          ? identity.signInId === gone.signInId
          : identity.accountId === gone.accountId && ensembleId === gone.ensembleId;
      if (!isGone) continue;
      socket.emit('over', 'You are no longer signed in to this rehearsal');
      socket.disconnect(true);
    }
  }

  /** Lets a socket in: a stand by its token, who leads by the cookie and the room they name. */
  private async admit(socket: RoomSocket): Promise<void> {
    const auth = socket.handshake.auth as { token?: unknown; roomId?: unknown };
    const token = typeof auth.token === 'string' ? auth.token : null;
    const identity = await this.access.identityOf(socket.request, token);
    const data = { second: 0, messages: 0, identity };
    if (identity.kind === 'stand') {
      const { roomId } = identity.stand;
      Object.assign(socket.data, { ...data, roomId, ensembleId: identity.room.ensembleId });
      return;
    }
    const roomId = typeof auth.roomId === 'string' ? auth.roomId : '';
    const ensembleId = await this.access.ensembleOfRoomMaybe(roomId);
    if (ensembleId === null || !this.access.may(identity, 'keepRoom', ensembleId))
      throw new Error(
        'This rehearsal is over, or this stand is no longer part of it: join again with the code',
      );
    await this.rooms.stateOf(roomId);
    Object.assign(socket.data, { ...data, roomId, ensembleId });
  }

  async handleConnection(socket: RoomSocket): Promise<void> {
    const { roomId, identity } = socket.data;
    await socket.join(roomName(roomId));
    if (identity.kind === 'stand') {
      const { id, section, name } = identity.stand;
      await socket.join(standName(id));
      this.presence.connected(roomId, id, section, name);
    } else {
      await socket.join(leadName(roomId));
      socket.emit('takes', this.takes.list(roomId));
    }
    this.tellPresence(roomId);
    socket.emit('room', await this.rooms.stateOf(roomId));
  }

  async handleDisconnect(socket: RoomSocket): Promise<void> {
    const { identity, roomId } = socket.data;
    // One stand may have two sockets for a moment: the old one of a lost network, and the new one, here or in another process.
    if (identity.kind !== 'stand') return;
    const others = await this.server
      .in(standName(identity.stand.id))
      .fetchSockets()
      .catch(() => []);
    if (others.length > 0) return;
    this.presence.disconnected(roomId, identity.stand.id);
    this.tellPresence(roomId);
  }

  /** One exchange of clocks. The stamp of arrival is taken before anything else is done. */
  @SubscribeMessage('clock')
  clock(@ConnectedSocket() socket: RoomSocket): Answer<ClockStamps> {
    const receivedMs = serverNowMs();
    this.countMessage(socket);
    return { ok: true, value: { receivedMs, answeredMs: serverNowMs() } };
  }

  @SubscribeMessage('report')
  report(@ConnectedSocket() socket: RoomSocket, @MessageBody() report: StandReportMessage): Answer {
    this.countMessage(socket);
    const { identity, roomId } = socket.data;
    if (identity.kind !== 'stand') throw forbidden('Only a stand reports on itself');
    this.presence.report(roomId, identity.stand.id, report);
    this.tellPresence(roomId);
    return DONE;
  }

  /** What a stand played along with the run that the room has. */
  @SubscribeMessage('taken')
  async taken(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: TakenMessage): Promise<Answer> {
    this.countMessage(socket);
    const { identity, roomId } = socket.data;
    if (identity.kind !== 'stand') throw forbidden('Only a stand plays along for its section');
    const { run, playsAlong } = await this.rooms.stateOf(roomId);
    if (run?.id !== message.runId || playsAlong === null)
      throw forbidden('Nothing is played along with that run any more');
    const { id: standId, section, name } = identity.stand;
    this.takes.took(roomId, { ...message, standId, section, name, play: playsAlong });
    this.tellTakes(roomId);
    return DONE;
  }

  @SubscribeMessage('open')
  open(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: OpenPieceMessage): Promise<Answer> {
    return this.act(socket, 'lead', { kind: 'open', ...message });
  }

  @SubscribeMessage('start')
  start(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: StartRunMessage): Promise<Answer> {
    const settings = { ...PLAIN_RUN, ...settingsIn(message.settings) };
    return this.act(socket, 'lead', {
      kind: 'start',
      ...message,
      call: message.call ?? null,
      settings,
    });
  }

  @SubscribeMessage('say')
  say(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: SayMessage): Promise<Answer> {
    const { runId, known } = message;
    return this.act(socket, 'lead', { kind: 'say', runId, known, saying: sayingIn(message) });
  }

  @SubscribeMessage('hear')
  hear(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: HearingMessage): Promise<Answer> {
    return this.act(socket, 'keepRoom', { kind: 'hear', ...message });
  }

  @SubscribeMessage('tell')
  tell(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: TellMessage): Promise<Answer> {
    return this.act(socket, 'keepRoom', { kind: 'tell', ...message });
  }

  @SubscribeMessage('handOut')
  handOut(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: HandOutMessage): Promise<Answer> {
    return this.act(socket, 'keepRoom', { kind: 'handOut', ...message });
  }

  @SubscribeMessage('share')
  share(@ConnectedSocket() socket: RoomSocket, @MessageBody() message: SharePiecesMessage): Promise<Answer> {
    return this.act(socket, 'keepRoom', { kind: 'share', ...message });
  }

  @SubscribeMessage('settings')
  async settings(
    @ConnectedSocket() socket: RoomSocket,
    @MessageBody() { isMuted, alone, next, coDirectorsLead, playsAlong }: RoomSettingsMessage,
  ): Promise<Answer> {
    if (isMuted !== undefined) await this.act(socket, 'keepRoom', { kind: 'mute', isMuted });
    if (alone !== undefined) await this.act(socket, 'keepRoom', { kind: 'alone', sections: alone });
    if (playsAlong !== undefined) await this.act(socket, 'keepRoom', { kind: 'playAlong', play: playsAlong });
    if (next !== undefined) await this.act(socket, 'keepRoom', { kind: 'next', title: next });
    if (coDirectorsLead !== undefined)
      await this.act(socket, 'keepMembers', { kind: 'letLead', coDirectorsLead });
    return DONE;
  }

  private async act(socket: RoomSocket, action: RoleAction, act: RoomAct): Promise<Answer> {
    this.countMessage(socket);
    const { roomId } = socket.data;
    await this.require(socket, action);
    await this.rooms.act(roomId, act, (state) => this.server.to(roomName(roomId)).emit('room', state));
    return DONE;
  }

  /** Looked up anew for each act: a right that was taken away is gone at once. */
  private async require(socket: RoomSocket, action: RoleAction): Promise<void> {
    const { identity, ensembleId, roomId } = socket.data;
    const now = identity.kind === 'account' ? await this.access.identityOf(socket.request, null) : identity;
    const { coDirectorsLead } = await this.rooms.stateOf(roomId);
    if (!mayDo(this.access.roleIn(now, ensembleId), action, { coDirectorsLead }))
      throw forbidden(
        action === 'lead'
          ? 'The director leads this rehearsal, and can let co-directors lead too, under “together”'
          : 'Your part in this rehearsal does not include this; ask its director',
      );
  }

  private countMessage({ data }: RoomSocket): void {
    const second = Math.floor(serverNowMs() / 1000);
    if (data.second !== second) Object.assign(data, { second, messages: 0 });
    if (++data.messages > MESSAGES_A_SECOND) throw tooMany('Too many messages at once; wait a second', 1);
  }

  private tellTakes(roomId: string): void {
    this.server.local.to(leadName(roomId)).emit('takes', this.takes.list(roomId));
  }

  /** Tells those who lead who is there, a few times a second at most. */
  private tellPresence(roomId: string): void {
    this.presenceDue.add(roomId);
    this.presenceTimer ??= setTimeout(() => {
      this.presenceTimer = null;
      for (const due of this.presenceDue)
        this.server.local.to(leadName(due)).emit('presence', this.presence.list(due));
      this.presenceDue.clear();
    }, PRESENCE_EVERY_MS);
    this.presenceTimer.unref();
  }
}

function sayingIn({ kind, settings, every }: SayMessage): RunSaying {
  return kind === 'change'
    ? { kind, settings: settings ? settingsIn(settings) : {}, every: every ?? 'beat' }
    : { kind };
}
