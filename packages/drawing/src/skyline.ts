/** Room that something takes above the line, in pixels: up is negative. */
export interface Box {
  readonly fromX: number;
  readonly toX: number;
  readonly topY: number;
}

/** What stands above a line so far, and how far up; what comes later is put over it where there is no room beside it. */
export class Skyline {
  private readonly boxes: Box[] = [];

  put(box: Box): void {
    this.boxes.push(box);
  }

  /** The height from which on nothing stands over a stretch of the line: 0 where nothing stands there at all. */
  freeAbove(fromX: number, toX: number): number {
    return this.boxes.reduce(
      (top, box) => (box.fromX < toX && box.toX > fromX ? Math.min(top, box.topY) : top),
      0,
    );
  }

  /** The uppermost of all. */
  get topY(): number {
    return this.boxes.reduce((top, box) => Math.min(top, box.topY), 0);
  }
}
