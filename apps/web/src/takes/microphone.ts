import { listedSounds, loopLatencyMaybe, type LoopLatency } from '@anchorbeat/core';
import { Kept } from '../kept/kept.ts';
import type { Listening } from '../sound/listeningMessages.ts';
import type { Playback } from '../sound/playback.ts';

interface MicrophoneChoice {
  /** Whether a take is heard by the microphone, besides being tapped. */
  readonly isOn: boolean;
  /** From what the device sounds to its hearing it; null where it was not measured. */
  readonly latencyMs: number | null;
}

/** The microphone of this device. */
export const keptMicrophone = new Kept<MicrophoneChoice>('anchorbeat.microphone', (stored) => {
  const { isOn, latencyMs } = (stored ?? {}) as { readonly isOn?: unknown; readonly latencyMs?: unknown };
  return {
    isOn: isOn === true,
    latencyMs: typeof latencyMs === 'number' && latencyMs >= 0 && latencyMs < 1000 ? latencyMs : null,
  };
});

/** What a microphone that was not measured is taken to add to what the browser knows. */
const USUAL_INPUT_SECONDS = 0.02;
/** Before the entry somebody may be early: what is heard then is no longer the click alone. */
const EARLY_SECONDS = 0.2;

/** Listens to who plays along with the run that sounds. Rejects, in words, where it cannot. */
export async function hearRun(playback: Playback): Promise<Listening> {
  const { output } = playback.loudspeaker;
  if (!output?.listen) throw new Error('This browser gives no sound to listen beside');
  const { latencyMs } = keptMicrophone.get();
  const latencySeconds =
    latencyMs === null ? output.latencySeconds() + USUAL_INPUT_SECONDS : latencyMs / 1000;
  const listening = await output.listen((seconds) => {
    // A moment of the page at which what was heard left the loudspeaker, had it been our own click.
    const nowMs = performance.now();
    playback.tap(nowMs + (seconds - latencySeconds - output.dueSeconds(nowMs)) * 1000);
  });
  const runSeconds = playback.runSecondsMaybe();
  const music = playback.plan?.stretches.find(({ kind }) => kind === 'music');
  const entersIn = (music?.runSeconds ?? 0) - (runSeconds ?? 0);
  listening.order({
    latencySeconds,
    learnsUntilSeconds:
      output.nowSeconds() - output.latencySeconds() + entersIn + latencySeconds - EARLY_SECONDS,
    masks: true,
  });
  return listening;
}

/** Unevenly spaced, so that no two delays fit alike. */
const LOOP_CLICKS = [0.3, 0.7, 1.22, 1.58, 2.19, 2.62, 3.24, 3.58] as const;
const LOOP_SECONDS = 4.4;

/** The device listens to itself: how late it hears its own clicks; null where it does not hear them well. */
export async function measureLoop(playback: Playback): Promise<LoopLatency | null> {
  const { loudspeaker } = playback;
  loudspeaker.open();
  const clicks = LOOP_CLICKS.map((timeSeconds) => ({ timeSeconds, kind: 'downbeat' as const }));
  const heard: number[] = [];
  const listening = await loudspeaker.output?.listen?.((seconds) => {
    const runSeconds = loudspeaker.player?.runSecondsAtMaybe(seconds) ?? null;
    if (runSeconds !== null) heard.push(runSeconds);
  });
  if (!listening) return null;
  try {
    listening.order({ latencySeconds: 0, learnsUntilSeconds: -Infinity, masks: false });
    await playback.audition(listedSounds(clicks, LOOP_SECONDS));
  } finally {
    listening.close();
  }
  return loopLatencyMaybe(LOOP_CLICKS, heard);
}
