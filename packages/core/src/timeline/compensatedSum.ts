/** Neumaier's compensated summation: the error does not grow with the number of terms. */
export class CompensatedSum {
  private total = 0;
  private lost = 0;

  add(term: number): void {
    const next = this.total + term;
    this.lost += Math.abs(this.total) >= Math.abs(term) ? this.total - next + term : term - next + this.total;
    this.total = next;
  }

  get value(): number {
    return this.total + this.lost;
  }
}
