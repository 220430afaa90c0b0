import type { WakeTimer } from '@anchorbeat/audio';

/** A page's own timer. */
export const pageTimer: WakeTimer = {
  every: (periodSeconds, wake) => {
    const id = setInterval(wake, periodSeconds * 1000);
    return () => clearInterval(id);
  },
};
