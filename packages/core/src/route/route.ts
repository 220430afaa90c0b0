import type { Bar, Jump, Piece } from '../piece/piece.ts';
import { readRepeats, timesOnPaper, type Ending, type Repeat } from './repeats.ts';
import { RouteSigns } from './signs.ts';

/** The order in which bars are performed. Parallel arrays, one entry a performed bar. */
export interface Route {
  readonly barIndex: Int32Array;
  /** Which time through the written bar this is, from 1. */
  readonly pass: Int32Array;
  /** The written bar at which a route without end was cut off; absent where it ends by itself. */
  readonly loopsAtBar?: number;
}

/** The written bar that a performed bar plays. Throws a RangeError where the route has no such bar. */
export function barOf({ bars }: Pick<Piece, 'bars'>, { barIndex }: Route, performed: number): Bar {
  const bar = bars[barIndex[performed] ?? -1];
  if (!bar) throw new RangeError(`there is no performed bar ${performed}`);
  return bar;
}

/** A route is cut off where it has grown longer than this many times the written bars. */
export const MAX_ROUTE_RATIO = 100;

/** A D.C. or D.S. as it was performed. */
export interface TakenJump {
  readonly jump: Jump;
  /** The written bar at whose end it stands, and that bar's performance. */
  readonly bar: number;
  readonly performed: number;
  /** What it came to: the fine, or the sign that sends to the coda; null where it only went on. */
  readonly cameTo: 'fine' | 'coda' | null;
}

/**
 * Walks the repeats, endings and jumps (timing.md, Route). Jumps fire once; after a jump the repeats that were gone through
 * before it are not taken unless the piece says so, and the last ending is the one performed. What is new then, as in a
 * coda, is repeated as it is written.
 */
export function routeOf(piece: Piece): Route {
  return isPlain(piece) ? plainRoute(piece.bars.length) : new RouteWalker(piece).walk();
}

/** The jumps of a route in the order in which they were taken. */
export function jumpsTaken(piece: Piece): readonly TakenJump[] {
  if (isPlain(piece)) return [];
  const walker = new RouteWalker(piece);
  walker.walk();
  return walker.jumps;
}

function isPlain({ bars }: Piece): boolean {
  return bars.every(
    (bar) => !bar.startsRepeat && bar.endsRepeat === undefined && !bar.ending && !bar.navigation,
  );
}

function plainRoute(length: number): Route {
  return {
    barIndex: Int32Array.from({ length }, (_, index) => index),
    pass: new Int32Array(length).fill(1),
  };
}

/** One walk through a piece: where it is, how often each repeat has been played, whether it has jumped. */
class RouteWalker {
  private readonly performed: number[] = [];
  private readonly endingAt = new Map<number, { readonly ending: Ending; readonly repeat: Repeat }>();
  private readonly repeatEndingAt = new Map<number, Repeat>();
  private readonly repeats: readonly Repeat[];
  private readonly played = new Map<Repeat, number>();
  private readonly fired = new Set<number>();
  /** Repeats of which an end was played, and those of them from before the last jump. */
  private readonly ended = new Set<Repeat>();
  private known: ReadonlySet<Repeat> = new Set();
  private readonly signs: RouteSigns;
  readonly jumps: TakenJump[] = [];

  constructor(private readonly piece: Piece) {
    this.signs = new RouteSigns(piece);
    this.repeats = readRepeats(piece).repeats;
    for (const repeat of this.repeats) {
      for (const ending of repeat.endings) this.endingAt.set(ending.from, { ending, repeat });
      for (const end of repeat.ends) this.repeatEndingAt.set(end, repeat);
    }
  }

  walk(): Route {
    const { bars } = this.piece;
    const limit = bars.length * MAX_ROUTE_RATIO;
    let at = 0;
    while (at < bars.length) {
      const skipped = this.skippedTo(at);
      if (skipped !== null) {
        at = skipped;
        continue;
      }
      if (this.performed.length >= limit) return this.finish(at);
      this.performed.push(at);
      at = this.next(at, bars[at] as Bar);
    }
    return this.finish();
  }

  /** Where to go on instead, at the start of an ending that is not for this pass. */
  private skippedTo(at: number): number | null {
    const here = this.endingAt.get(at);
    if (!here || here.ending.passes.includes(this.passOf(here.repeat))) return null;
    return here.ending.to + 1;
  }

  private passOf(repeat: Repeat): number {
    return this.isTaken(repeat) ? (this.played.get(repeat) ?? 1) : timesOnPaper(repeat);
  }

  private isTaken(repeat: Repeat): boolean {
    return !this.known.has(repeat) || this.piece.takesRepeatsAfterJump === true;
  }

  private next(at: number, bar: Bar): number {
    const back = this.repeatBack(at);
    if (back !== null) return back;
    const last = this.jumps.at(-1);
    if (last && this.signs.endsAt(bar, last.jump)) {
      this.comeTo('fine');
      return this.piece.bars.length;
    }
    const coda = last?.cameTo === null ? this.signs.codaAfter(at, last.jump, last.bar) : null;
    if (coda !== null) {
      this.comeTo('coda');
      return coda;
    }
    const jump = bar.navigation?.jump;
    return jump && !this.fired.has(at) ? this.jumpFrom(at, jump) : at + 1;
  }

  private comeTo(cameTo: 'fine' | 'coda'): void {
    const last = this.jumps.pop();
    if (last) this.jumps.push({ ...last, cameTo });
  }

  private repeatBack(at: number): number | null {
    const repeat = this.repeatEndingAt.get(at);
    if (!repeat) return null;
    this.ended.add(repeat);
    if (!this.isTaken(repeat)) return null;
    const pass = this.played.get(repeat) ?? 1;
    if (pass >= timesOnPaper(repeat)) {
      this.played.delete(repeat);
      return null;
    }
    for (const inner of this.repeats) {
      if (inner !== repeat && inner.start >= repeat.start && (inner.ends.at(-1) ?? 0) <= at)
        this.played.delete(inner);
    }
    this.played.set(repeat, pass + 1);
    return repeat.start;
  }

  private jumpFrom(at: number, jump: Jump): number {
    const target = this.signs.targetOf(jump, at);
    if (target === null) return at + 1;
    this.fired.add(at);
    this.jumps.push({ jump, bar: at, performed: this.performed.length - 1, cameTo: null });
    this.known = new Set(this.ended);
    this.played.clear();
    return target;
  }

  private finish(loopsAtBar?: number): Route {
    const passes = new Int32Array(this.piece.bars.length);
    const pass = Int32Array.from(this.performed, (bar) => (passes[bar] = (passes[bar] ?? 0) + 1));
    return {
      barIndex: Int32Array.from(this.performed),
      pass,
      ...(loopsAtBar !== undefined && { loopsAtBar }),
    };
  }
}
