import type { WebAudioOutput } from '@anchorbeat/audio';
import type { Hears, Listening, ListeningNews } from './listeningMessages.ts';
import workletUrl from './onsets.worklet.ts?worker&url';

/** Why a browser does not let a page listen at all; null where it may ask. */
export function whyNotListen(): string | null {
  const hasAll = 'mediaDevices' in navigator && typeof AudioWorkletNode === 'function';
  if (window.isSecureContext && hasAll) return null;
  return 'The browser gives the microphone only to a page over https, or on this machine itself: start Anchorbeat with --https';
}

/** Opens the microphone, as it is: nothing of it is made softer, clearer or taken out by the browser. */
export async function listenOn(
  context: AudioContext,
  output: WebAudioOutput,
  hears: Hears,
): Promise<Listening> {
  const why = whyNotListen();
  if (why !== null) throw new Error(why);
  const stream = await openStream();
  try {
    await context.audioWorklet.addModule(workletUrl);
    const node = new AudioWorkletNode(context, 'onsets', { numberOfInputs: 2, numberOfOutputs: 1 });
    const source = new MediaStreamAudioSourceNode(context, { mediaStream: stream });
    source.connect(node, 0, 0);
    const endOurs = output.alsoTo(node, 1);
    // A node is only asked for sound where that leads somewhere; nothing comes out of this one.
    node.connect(context.destination);
    node.port.onmessage = ({ data }: MessageEvent<ListeningNews>) => hears(data.seconds);
    return {
      order: (order) => node.port.postMessage(order),
      close: () => {
        node.port.onmessage = null;
        endOurs();
        source.disconnect();
        node.disconnect();
        for (const track of stream.getTracks()) track.stop();
      },
    };
  } catch (error) {
    for (const track of stream.getTracks()) track.stop();
    throw error;
  }
}

/** @throws Error in words for a person where there is no microphone, or it may not be had. */
export async function openStream(): Promise<MediaStream> {
  const asItIs = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  try {
    return await navigator.mediaDevices.getUserMedia({ audio: asItIs });
  } catch (error) {
    throw new Error(
      (error as Error).name === 'NotAllowedError'
        ? 'The browser was told not to give this page the microphone: allow it beside the address'
        : 'There is no microphone that can be opened: plug one in, or tap',
      { cause: error },
    );
  }
}
