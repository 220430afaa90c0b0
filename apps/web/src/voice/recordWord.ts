import { cutWord, WORD_RATE, type OwnWord } from '@anchorbeat/audio';
import { openStream } from '../sound/listening.ts';

/** Listening ends by itself after so long. */
const LONGEST_MS = 3000;

/** A recording that goes on: how to end it sooner, or for nothing, and what was said. */
export interface WordRecording {
  readonly end: () => void;
  readonly drop: () => void;
  /** Null where it was dropped. Rejects, in words, where nothing can be used of it. */
  readonly word: Promise<OwnWord | null>;
}

/** Records a word with the microphone. Rejects, in words, where the browser does not let it. */
export async function recordWord(name: string): Promise<WordRecording> {
  const stream = await openStream();
  const recorder = new MediaRecorder(stream);
  const parts: Blob[] = [];
  recorder.ondataavailable = ({ data }) => parts.push(data);
  const ended = new Promise<void>((resolve, reject) => {
    recorder.onstop = () => resolve();
    recorder.onerror = () => reject(new Error('The microphone was taken away: once more'));
  }).finally(() => {
    for (const track of stream.getTracks()) track.stop();
  });
  // Who is told to speak before anything is taken in loses the beginning of it.
  const begun = new Promise<void>((resolve) => (recorder.onstart = () => resolve()));
  recorder.start();
  await Promise.race([begun, ended]);
  const end = () => {
    if (recorder.state !== 'inactive') recorder.stop();
  };
  let isDropped = false;
  const drop = () => {
    isDropped = true;
    end();
  };
  const timer = setTimeout(end, LONGEST_MS);
  const word = ended
    .finally(() => clearTimeout(timer))
    .then(() => (isDropped ? null : wordIn(name, new Blob(parts, { type: recorder.mimeType }))));
  return { end, drop, word };
}

async function wordIn(name: string, recording: Blob): Promise<OwnWord> {
  const context = new OfflineAudioContext(1, 1, WORD_RATE);
  const decoded = await context.decodeAudioData(await recording.arrayBuffer());
  const cut = cutWord(name, decoded.getChannelData(0), decoded.sampleRate);
  if (!cut.ok) throw new Error(cut.problem.message);
  return cut.value;
}
