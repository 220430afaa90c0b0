import { useEffect, useRef, useState } from 'react';

/** Work under way: its result, and a way to call it off. */
export interface Task<Result> {
  readonly result: Promise<Result>;
  readonly cancel: () => void;
}

type Start<Work, Result> = (work: Work, onProgress: (share: number) => void) => Task<Result>;

/** One piece of work at a time, with how far it has come (0 to 1; null while nothing is under way). */
export function useTask<Work, Result>(start: Start<Work, Result>) {
  const task = useRef<Task<Result> | null>(null);
  const [share, setShare] = useState<number | null>(null);
  useEffect(() => () => task.current?.cancel(), []);
  const cancel = () => {
    task.current?.cancel();
    task.current = null;
    setShare(null);
  };
  /** The result; it never comes where the work is called off. */
  const run = async (work: Work): Promise<Result> => {
    cancel();
    const started = start(work, setShare);
    task.current = started;
    setShare(0);
    try {
      return await started.result;
    } finally {
      if (task.current === started) {
        task.current = null;
        setShare(null);
      }
    }
  };
  return { run, cancel, share };
}
