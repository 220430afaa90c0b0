let wasPointer = false;

/** Notes whether a pointer or a key was used last, before anything is done with it. */
export function watchHand(): void {
  window.addEventListener('pointerdown', () => (wasPointer = true), { capture: true });
  window.addEventListener('keydown', () => (wasPointer = false), { capture: true });
}

/** Whether what happens now was begun with a pointer or a finger rather than with a key. */
export function isByPointer(): boolean {
  return wasPointer;
}
