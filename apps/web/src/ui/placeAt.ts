interface Point {
  readonly x: number;
  readonly y: number;
}

/** What moves without React has a layer of its own: nothing that it passes over is painted again. */
export const MOVING = 'will-change-transform';

/** Puts what moves at a point of its surroundings, in their pixels; null hides it. */
export function placeAt(element: HTMLElement | SVGElement | null, point: Point | null): void {
  if (!element) return;
  element.style.visibility = point ? 'visible' : 'hidden';
  if (point) element.style.transform = `translate(${point.x}px, ${point.y}px)`;
}
