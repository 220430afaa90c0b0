import type { Bar, Jump, Piece } from '../piece/piece.ts';

/** The signs of a route by their bars, and which of them one that has jumped obeys. */
export class RouteSigns {
  private readonly segnos: readonly number[];
  private readonly codas: readonly number[];
  private readonly toCodas: readonly number[];
  private readonly jumps: readonly Jump[];

  constructor({ bars }: Piece) {
    const barsWith = (sign: 'segno' | 'coda' | 'toCoda') =>
      bars.flatMap(({ navigation }, index) => (navigation?.[sign] ? [index] : []));
    [this.segnos, this.codas, this.toCodas] = [barsWith('segno'), barsWith('coda'), barsWith('toCoda')];
    this.jumps = bars.flatMap(({ navigation }) => navigation?.jump ?? []);
  }

  /** Where a jump leads: of several segnos the last one before it. Null where there is none. */
  targetOf(jump: Jump, from: number): number | null {
    if (jump.to === 'start') return 0;
    return this.segnos.findLast((bar) => bar <= from) ?? this.segnos[0] ?? null;
  }

  /** Whether a piece ends at this fine, after a jump. */
  endsAt({ navigation }: Bar, jump: Jump): boolean {
    return navigation?.fine === true && this.says(jump, 'fine');
  }

  /**
   * The coda to which a bar sends after a jump; null where it sends nowhere. Of several codas the first sign leads to the
   * first, the second to the second; one that a jump has behind it is over.
   */
  codaAfter(bar: number, jump: Jump, jumpedFrom: number): number | null {
    if (!this.toCodas.includes(bar) || !this.says(jump, 'coda')) return null;
    const [only, ...others] = this.codas;
    if (only === undefined || others.length === 0) return only ?? null;
    const ahead = this.codas.filter((coda) => coda > jumpedFrom);
    if (this.codas.length !== this.toCodas.length) return ahead[0] ?? only;
    const own = this.codas[this.toCodas.indexOf(bar)] ?? only;
    return ahead.includes(own) ? own : null;
  }

  /** "D.C. al fine" says where it ends. A plain one means what the piece has, where no other jump claims it for itself. */
  private says(jump: Jump, what: 'fine' | 'coda'): boolean {
    return jump.al === undefined ? !this.jumps.some(({ al }) => al === what) : jump.al === what;
  }
}
