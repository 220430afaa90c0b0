import type { MouseEvent, PointerEvent } from 'react';

/**
 * What a button listens to where the moment counts: done as a finger comes down, told when that was by the clock of the page. With
 * keys, or by what reads the screen aloud, a button is clicked and no finger comes down.
 */
export function timedTouch(done: (atMs: number) => void) {
  return {
    onPointerDown: ({ button, timeStamp }: PointerEvent) => {
      if (button === 0) done(timeStamp);
    },
    onClick: ({ detail, timeStamp }: MouseEvent) => {
      if (detail === 0) done(timeStamp);
    },
  };
}
