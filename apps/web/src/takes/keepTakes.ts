import { toast } from '../ui/toast.ts';
import type { PlayedTake } from '../sound/sounding.ts';
import { amendLastRun } from '../store/runLogging.ts';
import type { AppStore } from '../store/store.ts';
import { takeTold } from '../store/transportSlice.ts';
import { analyseInWorker } from './analyseTake.ts';
import { keptMicrophone } from './microphone.ts';

/** What was played along with a run is worked out, told, and kept with the run in the log, where it went there. */
export const keepTakes =
  (store: AppStore) =>
  ({ info, proof, plan, onsets, isSimulated }: PlayedTake): void => {
    const play = store.getState().transport.playsAlong ?? 'pulse';
    analyseInWorker({ piece: proof.piece, plan, take: { onsets, play } })
      .then((take) => {
        const { lastLogged } = store.getState().transport;
        if (lastLogged?.run.id === info.id) amendLastRun(store.dispatch, lastLogged, { take });
        const { id: runId, pieceId, settings } = info;
        if (pieceId !== null)
          store.dispatch(takeTold({ runId, pieceId, percent: settings.percent, take, isSimulated }));
      })
      .catch((error: unknown) => toast(`This take could not be worked out: ${(error as Error).message}`));
  };

/** Whoever leaves the taps out knows it; a microphone that hears nothing looks just like one that does. */
export function tellNobodyHeard(): void {
  if (keptMicrophone.get().isOn)
    toast('The microphone heard nobody: try it under “microphone” at the podium');
}
