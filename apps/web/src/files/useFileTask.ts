import { startFileWork } from './fileWork.ts';
import { useTask } from './useTask.ts';

/** Files read, written or rendered, one at a time. */
export function useFileTask() {
  return useTask(startFileWork);
}
