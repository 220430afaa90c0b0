import type { DateResponse } from '@anchorbeat/contract';
import { toast } from '../ui/toast.ts';
import { problemText } from './api.ts';
import { Outbox } from './outbox.ts';
import { fieldsOf, season } from './seasonApi.ts';
import { sendUntilAnswered } from './sending.ts';
import type { AppDispatch } from './store.ts';
import { accountHere, senderHere } from './visitorSlice.ts';

const RETRY_MS = 4000;

interface WaitingDone {
  readonly ensembleId: string;
  readonly done: DateResponse['done'];
  /** Whose rehearsal it was; null where they have no account. */
  readonly by?: string | null;
}

/** What was done of plans and has not been acknowledged, by their dates. */
const waiting = new Outbox<WaitingDone>('anchorbeat.done');

/** Keeps what was done of a date's plan: shown at once, sent until the server has acknowledged it, whatever screen one goes to. */
export async function keepDone(
  dispatch: AppDispatch,
  ensembleId: string,
  date: DateResponse,
  done: DateResponse['done'],
): Promise<void> {
  const item = { ensembleId, done, by: dispatch(accountHere) };
  const { id } = date;
  waiting.put(id, item);
  const base = fieldsOf(date);
  const save = season.endpoints.saveDate.initiate({ ensembleId, id, date: { ...base, done }, base });
  const { error } = await dispatch(save);
  if (!error) return waiting.acknowledged(id, item);
  await sendWaitingDone(dispatch);
}

/** Sends what was done and waits, also from before this window was opened. */
export function sendWaitingDone(dispatch: AppDispatch): Promise<boolean> {
  const sender = () => dispatch(senderHere);
  return waiting.send(sender, async (id, { ensembleId, done }) => {
    let isTold = false;
    const onRetry = (reason: string) => {
      if (!isTold) toast(`What was done is kept here, and sent again: ${reason}`, { id: 'done' });
      isTold = true;
    };
    const answer = await sendUntilAnswered({
      send: () => dispatch(season.endpoints.addDone.initiate({ id, ensembleId, done }, { track: false })),
      isWanted: () => sender() !== null,
      onRetry,
      retryMs: RETRY_MS,
    });
    if (answer?.kind === 'refused') toast(`What was done was not kept: ${problemText(answer.error)}`);
    return answer;
  });
}
