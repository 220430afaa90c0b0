import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { startSheetWork, type SheetOrder, type SheetTask } from './sheetWork.ts';

/** One sheet at a time is made; how far it has come, 0 to 1, or null while none is. */
export function useSheetTask() {
  const task = useRef<SheetTask | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const cancel = () => {
    task.current?.cancel();
    task.current = null;
    setShare(null);
  };
  useEffect(() => () => task.current?.cancel(), []);
  const make = async (
    order: SheetOrder,
    keep: (bytes: Uint8Array<ArrayBuffer>) => unknown,
  ): Promise<void> => {
    cancel();
    const started = startSheetWork(order, setShare);
    task.current = started;
    setShare(0);
    try {
      await keep(await started.made);
    } catch (error) {
      toast(`The sheet could not be made: ${(error as Error).message}`);
    }
    if (task.current === started) cancel();
  };
  return { share, make, cancel };
}
