import { ACCOUNT_HEADER } from '@anchorbeat/contract';
import type {
  ArchivePreview,
  BackupResponse,
  DateResponse,
  DrillResponse,
  EnsembleResponse,
  MemberResponse,
  MemberRole,
  PieceResponse,
  ProblemDocument,
  RevisionResponse,
  RoomResponse,
  RunResponse,
  SessionResponse,
  SignInResponse,
} from '@anchorbeat/contract';
import { barsMoved, barTexts, movedPlaceMaybe, movedTake, type PieceDocument } from '@anchorbeat/core';

export const ENSEMBLE: EnsembleResponse = {
  id: 'the ensemble',
  name: 'Marrowick Haven Bells and Reeds',
  place: 'Marrowick Haven',
  sections: ['Handbells', 'Reeds', 'Contrabass', 'Drums'],
  noteNames: 'quarter',
};

const DIRECTS = [{ ensembleId: ENSEMBLE.id, role: 'director' as const }];

type Body = Readonly<Record<string, unknown>>;
type Answer = (ids: readonly string[], body: Body) => unknown;

/** What an answer throws to refuse. */
class Refusal extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly more: object = {},
  ) {
    super(detail);
  }
}

/** A server in memory, as a page sees it: it keeps what it is sent, and tells in which order it was asked. */
export class FakeServer {
  static readonly PASSWORD = 'a long enough one';
  /** What is in a file that is an archive. */
  static readonly ARCHIVE = 'an archive';

  session: SessionResponse = {
    signedIn: { accountId: 'a', displayName: 'Ida Quill', isLocal: true, roles: DIRECTS },
    canOpenHere: false,
    canSetUp: false,
  };
  ensembles: EnsembleResponse[] = [ENSEMBLE];
  pieces: PieceResponse[] = [];
  /** By piece, the newest revision last, each with what was done. */
  readonly revisions = new Map<string, (RevisionResponse & { readonly piece: PieceDocument })[]>();
  readonly runs = new Map<string, RunResponse[]>();
  readonly drills = new Map<string, DrillResponse[]>();
  dates: DateResponse[] = [];
  rooms: RoomResponse[] = [];
  backups: BackupResponse[] = [];
  members: MemberResponse[] = [];
  /** Who led and does no more, and has an account still. */
  private readonly gone: MemberResponse[] = [];
  places: SignInResponse[] = [];
  /** Nobody answers. */
  isAway = false;
  /** Everything that was asked to be changed, such as "PUT pieces/x/shelf". */
  readonly changes: string[] = [];

  /** Puts a piece on the shelf, at revision 1. */
  add(id: string, piece: PieceDocument): PieceResponse {
    const response = { id, ensembleId: ENSEMBLE.id, revision: 1, savedAt: AT, isSetAside: false, piece };
    this.pieces.push(response);
    this.revisions.set(id, [{ revision: 1, savedAt: AT, edits: [], piece }]);
    return response;
  }

  readonly fetch = async (address: Request | string, init?: RequestInit): Promise<Response> => {
    if (this.isAway) throw new TypeError('nobody answers');
    const asked = new Request(
      address,
      init?.body instanceof Blob ? { ...init, body: await init.body.text() } : init,
    );
    const { pathname, search } = new URL(asked.url);
    // What else is asked in a query makes no difference here.
    const query = search === ONLY_NEW ? search : '';
    const path = decodeURIComponent(pathname.replace(/^\/api\//, '')) + query;
    if (asked.method !== 'GET') this.changes.push(`${asked.method} ${path}`);
    const text = await asked.text();
    try {
      const { signedIn } = this.session;
      const isFor = asked.headers.get(ACCOUNT_HEADER) ?? signedIn?.accountId;
      if (!path.startsWith('session') && (!signedIn || isFor !== signedIn.accountId))
        throw new Refusal(401, 'Sign in first');
      return said(200, this.answer(asked.method, path, read(text)));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      const problem: ProblemDocument = {
        type: 'urn:anchorbeat:problem:test',
        title: error.message,
        status: error.status,
        detail: error.message,
      };
      return said(error.status, { ...problem, ...error.more });
    }
  };

  private answer(method: string, path: string, body: Body): unknown {
    for (const [route, answer] of Object.entries(this.routes)) {
      const [routeMethod = '', pattern = ''] = route.split(' ');
      const found = new RegExp(`^${pattern.replaceAll('?', '\\?').replaceAll('*', '([^/?]+)')}$`).exec(path);
      if (method === routeMethod && found) return answer(found.slice(1), body) ?? null;
    }
    throw new Refusal(404, `There is no ${method} ${path} here`);
  }

  private readonly routes: Readonly<Record<string, Answer>> = {
    'GET session': () => this.session,
    'POST session/here': () => this.signIn('Ida Quill'),
    'POST session/first-account': (_, { name, password }) => {
      if (String(password).length < 10) throw new Refusal(400, 'A password has ten characters at least');
      return this.signIn(name as string);
    },
    'POST session': (_, { name, password }) => {
      if (password !== FakeServer.PASSWORD) throw new Refusal(401, 'Name or password are not right');
      return this.signIn(name as string);
    },
    'DELETE session': () => void (this.session = { ...this.session, signedIn: null }),
    'PUT session/password': (_, { password }) => {
      if (password !== FakeServer.PASSWORD) throw new Refusal(422, 'This is not the password you have now');
    },
    'GET session/places': () => this.places,
    'DELETE session/places/*': ([id]) => void (this.places = this.places.filter((one) => one.id !== id)),
    'GET ensembles': () => this.ensembles,
    'POST ensembles': (_, body) => put(this.ensembles, body as unknown as EnsembleResponse),
    'PUT ensembles/*': ([id = ''], body) =>
      put(this.ensembles, {
        ...this.ensembles.find((one) => one.id === id),
        ...body,
        id,
      } as EnsembleResponse),
    'GET ensembles/*/members': () => this.members,
    'POST ensembles/*/members': (_, body) => this.addMember(body),
    'PUT ensembles/*/members/*': ([, id], { role }) => this.setPart(id, role as MemberRole),
    'DELETE ensembles/*/members/*': ([, id]) => {
      const gone = this.members.find(({ accountId }) => accountId === id);
      if (gone) this.gone.push(gone);
      this.members = this.members.filter((one) => one !== gone);
      return null;
    },
    'GET ensembles/*/dates': () => this.dates,
    'PUT ensembles/*/dates/*': ([, id = ''], { base: _base, ...date }) =>
      put(this.dates, { ...date, id } as DateResponse),
    'DELETE ensembles/*/dates/*': ([, id]) => void (this.dates = this.dates.filter((one) => one.id !== id)),
    'GET ensembles/*/rooms': () => this.rooms,
    'GET backups': () => this.backups,
    'POST backups': () => this.addBackup(),
    'POST backups/*/restore': () => this.backups,
    'POST archives/look': (_, { file }) => lookedAt(file),
    'POST archives/restore': (_, { file }) => lookedAt(file),
    'GET pieces': () => this.pieces,
    'POST pieces': (_, { id, ensembleId, piece }) => {
      this.add(id as string, piece as PieceDocument);
      return put(this.pieces, { ...this.piece(id as string), ensembleId: ensembleId as string });
    },
    'GET pieces/*': ([id = '']) => this.piece(id),
    'PUT pieces/*/shelf': ([id = ''], { place, isSetAside }) =>
      this.shelved(id, place as number, isSetAside as boolean),
    'GET pieces/*/revisions': ([id = '']) => [...(this.revisions.get(id) ?? [])].reverse(),
    'GET pieces/*/revisions/*': ([id = '', revision]) => ({
      ...this.piece(id),
      ...this.revisions.get(id)?.find((one) => one.revision === Number(revision)),
    }),
    'POST pieces/*/revisions': ([id = ''], body) => this.saved(id, body),
    'GET pieces/*/runs': ([id = '']) => (this.runs.get(id) ?? []).map((run) => this.placed(id, run)),
    'GET pieces/*/runs/*': ([piece = '', id]) => this.runs.get(piece)?.find((run) => run.id === id),
    'PUT pieces/*/runs/*': ([piece = '', id = ''], body) =>
      put(listOf(this.runs, piece), { ...body, id } as RunResponse),
    // One that is logged stays as it is.
    [`PUT pieces/*/runs/*${ONLY_NEW}`]: ([piece = '', id = ''], body) =>
      this.runs.get(piece)?.find((run) => run.id === id) ??
      put(listOf(this.runs, piece), { ...body, id } as RunResponse),
    'DELETE pieces/*/runs/*': ([piece = '', id]) => void take(listOf(this.runs, piece), id),
    'GET pieces/*/drills': ([id = '']) => (this.drills.get(id) ?? []).map((drill) => this.placed(id, drill)),
    'PUT pieces/*/drills/*': ([piece = '', id = ''], body) =>
      put(listOf(this.drills, piece), { ...body, id, savedAt: AT } as DrillResponse),
    'DELETE pieces/*/drills/*': ([piece = '', id]) => void take(listOf(this.drills, piece), id),
  };

  /** What is kept of a piece. */
  piece(id: string): PieceResponse {
    const found = this.pieces.find((one) => one.id === id);
    if (!found) throw new Refusal(404, 'This piece is not here');
    return found;
  }

  /** Puts a revision after the newest of a piece. */
  keep(id: string, piece: PieceDocument, edits: readonly string[] = []): PieceResponse {
    const now = this.piece(id);
    const revision = { revision: now.revision + 1, savedAt: AT, piece };
    listOf(this.revisions, id).push({ ...revision, edits: [...edits] });
    return put(this.pieces, { ...now, ...revision });
  }

  /** Where something that was noted is now, and the seams of what was played. */
  private placed<Noted extends DrillResponse | RunResponse>(id: string, noted: Noted): Noted {
    const { placeKind: kind, barIndex, bars, revision } = noted;
    const then = this.revisions.get(id)?.find((one) => one.revision === revision)?.piece;
    if (!then) return noted;
    const moved = barsMoved(barTexts(then.bars), barTexts(this.piece(id).piece.bars));
    const now = movedPlaceMaybe({ kind, barIndex, bars }, moved);
    const take = 'take' in noted && noted.take ? { take: movedTake(noted.take, moved) } : {};
    return { ...noted, ...take, placeNow: now && { ...now, label: String(now.barIndex + 1) } };
  }

  private saved(id: string, { basedOnRevision, piece, edits = [] }: Body): PieceResponse {
    const { revision } = this.piece(id);
    if ((basedOnRevision as number) > revision) throw new Refusal(422, 'Based on what is not there');
    if (basedOnRevision !== revision)
      throw new Refusal(409, 'Somebody else saved', {
        currentRevision: revision,
        differences: [],
        isBaseGone: false,
      });
    return this.keep(id, piece as PieceDocument, edits as string[]);
  }

  private shelved(id: string, place: number, isSetAside: boolean): PieceResponse {
    const piece = { ...this.piece(id), isSetAside };
    this.pieces = this.pieces.filter((one) => one.id !== id);
    this.pieces.splice(place, 0, piece);
    return piece;
  }

  private signIn(displayName: string): null {
    const signedIn = { accountId: displayName, displayName, isLocal: false, roles: DIRECTS };
    this.session = { signedIn, canOpenHere: false, canSetUp: false };
    return null;
  }

  private addMember({ name, displayName }: Body): MemberResponse[] {
    if (this.members.some((one) => one.name === name)) throw new Refusal(409, 'That name is taken');
    const member = { accountId: `account of ${name as string}`, name, displayName, role: 'coDirector' };
    this.members.push(member as MemberResponse);
    return this.members;
  }

  private setPart(id = '', role: MemberRole): MemberResponse[] {
    const isWho = ({ accountId }: MemberResponse) => accountId === id;
    const known = this.members.find(isWho) ?? this.gone.find(isWho);
    if (!known) throw new Refusal(404, 'There is no such account');
    this.members = [...this.members.filter((one) => one.accountId !== id), { ...known, role }];
    return this.members;
  }

  private addBackup(): BackupResponse[] {
    const name = `backup ${this.backups.length + 1}`;
    this.backups.unshift({ name, madeAt: AT, reason: 'by-hand', bytes: 2_000_000 });
    return this.backups;
  }
}

const ONLY_NEW = '?onlyNew=true';
const AT = '2026-11-29T18:00:00.000Z';

/** What was sent: JSON, or a file as it is. */
function read(text: string): Body {
  return text.startsWith('{') ? (JSON.parse(text) as Body) : { file: text };
}

function said(status: number, answer: unknown): Response {
  const type = status < 400 ? 'application/json' : 'application/problem+json';
  return new Response(JSON.stringify(answer), { status, headers: { 'content-type': type } });
}

function lookedAt(file: unknown): ArchivePreview {
  if (file !== FakeServer.ARCHIVE) throw new Refusal(400, 'This is no archive of an ensemble');
  const none = { new: 0, same: 0, kept: 0 };
  return {
    ensemble: 'Quay Street Choir',
    madeAt: AT,
    isNewEnsemble: true,
    newSections: [],
    pieces: [{ title: 'Low Tide', does: 'new', revisions: 3 }],
    drills: none,
    runs: { ...none, new: 12 },
    dates: none,
    digest: 'a digest',
  };
}

function listOf<Item>(lists: Map<string, Item[]>, key: string): Item[] {
  const list = lists.get(key) ?? [];
  lists.set(key, list);
  return list;
}

function put<Item extends { readonly id: string }>(list: Item[], item: Item): Item {
  const at = list.findIndex(({ id }) => id === item.id);
  if (at < 0) list.push(item);
  else list[at] = item;
  return item;
}

function take<Item extends { readonly id: string }>(list: Item[], id: string | undefined): void {
  const at = list.findIndex((one) => one.id === id);
  if (at >= 0) list.splice(at, 1);
}
