import { useEffect, useRef, useState } from 'react';
import { startFileWork, type FileResult, type FileTask, type FileWork } from './fileWork.ts';

/** One piece of work at a time, with how far it has come (0 to 1; null while nothing is under way). */
export function useFileTask() {
  const task = useRef<FileTask | null>(null);
  const [share, setShare] = useState<number | null>(null);
  useEffect(() => () => task.current?.cancel(), []);
  const cancel = () => {
    task.current?.cancel();
    task.current = null;
    setShare(null);
  };
  /** The result; it never comes where the work is called off. */
  const run = async (work: FileWork): Promise<FileResult> => {
    cancel();
    const started = startFileWork(work, setShare);
    task.current = started;
    setShare(0);
    const result = await started.result;
    if (task.current === started) {
      task.current = null;
      setShare(null);
    }
    return result;
  };
  return { run, cancel, share };
}
