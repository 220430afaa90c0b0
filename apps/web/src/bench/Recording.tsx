import { howMany, MOST_STROKES, recordedStrokes, strokesText } from '@anchorbeat/core';
import { useEffect, useRef, useState } from 'react';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useFileChoice } from '../ui/useFileChoice.ts';

/** A longer recording is heard so far. */
const MOST_SECONDS = 120;
const MOST_BYTES = 100_000_000;
const LISTENED_AT_HERTZ = 44_100;

interface Heard {
  readonly name: string;
  /** An address of the file, to be played while one taps along. */
  readonly address: string;
  readonly says: string;
}

/** Strokes taken from a recording: found by the program, or tapped along while it plays. It stays on this device. */
export function Recording({ onText }: { readonly onText: (text: string) => void }) {
  /** What is listened to last; whatever an earlier one still finds is not wanted any more. */
  const wanted = useRef('');
  const [heard, setHeard] = useState<Heard | null>(null);
  const address = heard?.address;
  useEffect(() => () => void (address && URL.revokeObjectURL(address)), [address]);
  useEffect(() => () => void (wanted.current = ''), []);
  const listen = async (file: File) => {
    const opened = { name: file.name, address: URL.createObjectURL(file) };
    wanted.current = opened.address;
    const isWanted = () => wanted.current === opened.address;
    const say = (says: string) => {
      if (isWanted()) setHeard({ ...opened, says });
    };
    say('Listening …');
    try {
      const strokes = await strokesIn(file, (share) => say(`Listening … ${Math.round(100 * share)} %`));
      say(foundWords(strokes));
      if (strokes.length > 0 && isWanted()) onText(strokesText(strokes.slice(0, MOST_STROKES)));
    } catch (error) {
      say(error instanceof TooLarge ? error.message : 'This is no sound that this browser plays');
    }
  };
  const choice = useFileChoice((file) => void listen(file));
  const act: Act = {
    id: 'bench.recording',
    key: 'r',
    name: 'find the strokes in a recording',
    label: 'From a recording',
    group: 'Bench',
    does: choice.open,
  };
  useActs('panel', [act]);
  return (
    <span className="grid gap-2">
      <span className="flex flex-wrap items-center gap-2">
        <ActButton act={act} />
        <input
          {...choice.input}
          accept="audio/*"
          aria-label="A recording to find strokes in"
          className="sr-only"
        />
        <span aria-live="polite" className="text-sm text-quiet">
          {heard ? heard.says : 'It is listened to here, and goes nowhere.'}
        </span>
      </span>
      {heard && <audio controls src={heard.address} aria-label={heard.name} className="w-full max-w-md" />}
    </span>
  );
}

class TooLarge extends Error {}

type Strokes = Awaited<ReturnType<typeof recordedStrokes>>;

async function strokesIn(file: File, onShare: (share: number) => void): Promise<Strokes> {
  if (file.size > MOST_BYTES)
    throw new TooLarge('This recording is over 100 MB: cut out the passage that matters');
  const context = new OfflineAudioContext(1, 1, LISTENED_AT_HERTZ);
  const sound = await context.decodeAudioData(await file.arrayBuffer());
  return recordedStrokes(mono(sound), sound.sampleRate, (share) => {
    onShare(share);
    // The page may draw between two parts.
    return new Promise((resolve) => setTimeout(resolve, 0));
  });
}

function mono(sound: AudioBuffer): Float32Array {
  const length = Math.min(sound.length, MOST_SECONDS * sound.sampleRate);
  const mixed = new Float32Array(length);
  for (let channel = 0; channel < sound.numberOfChannels; channel++) {
    const samples = sound.getChannelData(channel);
    for (let at = 0; at < length; at++) mixed[at]! += samples[at]! / sound.numberOfChannels;
  }
  return mixed;
}

function foundWords(strokes: Strokes): string {
  const strong = strokes.filter(({ isStrong }) => isStrong).length;
  if (strokes.length === 0) return 'No strokes were found in it: play it and tap along';
  const found = `${howMany(strokes.length, 'stroke')}, ${strong} of them strong`;
  if (strong === 0) return `${found}: play it and tap along, y on the strong ones`;
  return strokes.length > MOST_STROKES ? `${found}; the first ${MOST_STROKES} are used` : found;
}
