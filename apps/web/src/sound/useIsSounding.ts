import { useAppSelector } from '../store/store.ts';

/** Whether a run sounds, or is about to. */
export function useIsSounding(): boolean {
  return useAppSelector((state) => state.transport.run !== null);
}
