import type { LoopLatency } from '@anchorbeat/core';
import { useEffect, useState } from 'react';
import { useKept } from '../kept/kept.ts';
import { whyNotListen } from '../sound/listening.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { keptMicrophone, measureLoop } from './microphone.ts';

const NOT_WELL =
  'It did not hear itself well. Turn the sound up, put no headphones on, and try once more where it is quieter';

/** Whether takes are heard, what for, and how late this device hears itself. */
export function MicrophoneDialog({ onClose }: { readonly onClose: () => void }) {
  const playback = usePlayback();
  const [choice, choose] = useKept(keptMicrophone);
  const [said, say] = useState('');
  const [isBusy, setIsBusy] = useState(false);
  const why = whyNotListen();
  const turn = async () => {
    if (choice.isOn) {
      choose({ ...choice, isOn: false });
      return;
    }
    // Asked for now, by a press, rather than while a run counts off.
    const trouble = await tried(playback.loudspeaker);
    say(trouble ?? '');
    choose({ ...choice, isOn: trouble === null });
  };
  const measure = async () => {
    setIsBusy(true);
    say('Listening to itself …');
    const loop = await measureLoop(playback).catch((error: unknown) => (error as Error).message);
    setIsBusy(false);
    say(typeof loop === 'string' ? loop : loop ? loopWords(loop) : NOT_WELL);
    if (loop !== null && typeof loop !== 'string')
      choose({ ...choice, latencyMs: Math.round(loop.latencySeconds * 1000) });
  };
  return (
    <DialogShell
      title="Listen with the microphone"
      description="Clap or play along instead of tapping. Sound is listened to in this page alone, for when something begins; none of it is kept or sent."
      width="middle"
      onClose={onClose}
    >
      {why !== null ? (
        <p role="alert" className="mt-5 text-lg text-problem">
          {why}. Tapping works everywhere.
        </p>
      ) : (
        <div className="mt-5 grid gap-4">
          <div className="flex flex-wrap items-center gap-4">
            <Button filled={!choice.isOn} aria-pressed={choice.isOn} onClick={() => void turn()}>
              {choice.isOn ? 'Stop listening to takes' : 'Listen to takes'}
            </Button>
            <Button disabled={isBusy} onClick={() => void measure()}>
              Measure the delay
            </Button>
            <span className="text-lg">
              {choice.latencyMs === null
                ? 'Delay not measured: as the browser tells it'
                : `This device hears itself after ${choice.latencyMs} ms`}
            </span>
          </div>
          {choice.isOn && !isBusy && <HeardNow />}
          <p className="text-quiet">
            Measuring plays eight clicks and listens for them; once for each device and loudspeaker is enough.
            With headphones on, nothing but you is heard; without, its own clicks are told from you by how
            loud they came in during the count-off.
          </p>
        </div>
      )}
      <p role="status" className="mt-3 min-h-7 text-lg font-semibold">
        {said}
      </p>
      <div className="mt-2 flex justify-end">
        <Button onClick={onClose}>Done</Button>
      </div>
    </DialogShell>
  );
}

/** What stands in the way of listening; null where nothing does. */
async function tried(loudspeaker: ReturnType<typeof usePlayback>['loudspeaker']): Promise<string | null> {
  try {
    loudspeaker.open();
    (await loudspeaker.output?.listen?.(() => undefined))?.close();
    return null;
  } catch (error) {
    return (error as Error).message;
  }
}

function loopWords({ latencySeconds, spreadSeconds }: LoopLatency): string {
  const ms = (seconds: number) => Math.round(seconds * 1000);
  return `It hears itself ${ms(latencySeconds)} ms after, within ${Math.max(1, ms(spreadSeconds))} ms. Kept for this device`;
}

/** Counts what is heard, so that one sees that it is. */
function HeardNow() {
  const { loudspeaker } = usePlayback();
  const [heard, setHeard] = useState(0);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    loudspeaker.open();
    const listening = Promise.resolve(
      loudspeaker.output?.listen?.(() => setHeard((count) => count + 1)),
    ).catch((error: unknown) => {
      setTrouble((error as Error).message);
      return undefined;
    });
    return () => void listening.then((one) => one?.close());
  }, [loudspeaker]);
  return (
    <p className="text-lg">
      {trouble || (
        <>
          Clap: heard{' '}
          <b className="numeral text-2xl" data-testid="heard-claps">
            {heard}
          </b>
        </>
      )}
    </p>
  );
}
