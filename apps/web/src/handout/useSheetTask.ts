import { toast } from '../ui/toast.ts';
import { useTask } from '../files/useTask.ts';
import { startSheetWork, type SheetOrder } from './sheetWork.ts';

/** Sheets and pictures, one at a time; what could not be made is told. */
export function useSheetTask() {
  const { run, cancel, share } = useTask(startSheetWork);
  const make = async (
    order: SheetOrder,
    keep: (bytes: Uint8Array<ArrayBuffer>) => unknown,
  ): Promise<void> => {
    try {
      await keep(await run(order));
    } catch (error) {
      toast(`The sheet could not be made: ${(error as Error).message}`);
    }
  };
  return { share, make, cancel };
}
