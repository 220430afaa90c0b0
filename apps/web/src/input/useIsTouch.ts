import { useSyncExternalStore } from 'react';

const coarse = matchMedia('(pointer: coarse)');

/** Whether the device is meant for fingers. */
export function useIsTouch(): boolean {
  return useSyncExternalStore(
    (tell) => {
      coarse.addEventListener('change', tell);
      return () => coarse.removeEventListener('change', tell);
    },
    () => coarse.matches,
  );
}
