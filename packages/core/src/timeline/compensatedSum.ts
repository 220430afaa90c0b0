/** A running sum, and what rounding has taken from it so far. */
export interface SumState {
  readonly total: number;
  readonly lost: number;
}

/** Neumaier's compensated summation: the error does not grow with the number of terms. */
export class CompensatedSum {
  private total: number;
  private lost: number;

  constructor(from: SumState = { total: 0, lost: 0 }) {
    this.total = from.total;
    this.lost = from.lost;
  }

  add(term: number): void {
    const next = this.total + term;
    this.lost += Math.abs(this.total) >= Math.abs(term) ? this.total - next + term : term - next + this.total;
    this.total = next;
  }

  /** Where the sum stands, to go on from. */
  get state(): SumState {
    return { total: this.total, lost: this.lost };
  }

  get value(): number {
    return this.total + this.lost;
  }
}
