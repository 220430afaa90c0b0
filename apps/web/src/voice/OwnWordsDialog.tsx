import type { OwnWord } from '@anchorbeat/audio';
import { listedSounds } from '@anchorbeat/core';
import { useEffect, useRef, useState } from 'react';
import { whyNotListen } from '../sound/listening.ts';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import { TextField } from '../ui/TextField.tsx';
import { ownVoice } from './ownVoice.ts';
import { recordWord, type WordRecording } from './recordWord.ts';
import { WordWave } from './WordWave.tsx';

/** What counts are mostly made of. */
const USUAL = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '10', '11', '12', '&', 'e', 'a', 'ready', 'go'];

interface OwnWordsDialogProps {
  /** The cue of the bar that is looked at; empty where it has none. */
  readonly cueWord: string;
  readonly onClose: () => void;
}

/** The words of a count-off in the director's own voice: recorded one by one, cut and placed by the program, heard on a beat. */
export function OwnWordsDialog({ cueWord, onClose }: OwnWordsDialogProps) {
  const { words, keep, remove } = useOwnWords();
  const [name, choose] = useState(cueWord || '1');
  const [other, setOther] = useState('');
  const own = words.find((word) => word.name === name);
  const names = [
    ...new Set([...(cueWord ? [cueWord] : []), ...USUAL, ...words.map((word) => word.name), name]),
  ];
  const why = whyNotListen();
  const takeOther = () => {
    if (other.trim() !== '') choose(other.trim());
    setOther('');
  };
  return (
    <DialogShell
      title="Count in your own voice"
      description="Say a word when it listens. It is cut and placed so that its vowel falls on the beat, and stays in this browser: it is sent nowhere."
      width="middle"
      onClose={onClose}
    >
      {why !== null ? (
        <p role="alert" className="mt-5 text-lg text-problem">
          {why}.
        </p>
      ) : (
        <div className="mt-4 grid gap-4">
          <div role="group" aria-label="Words" className="flex flex-wrap gap-1.5">
            {names.map((one) => {
              const isOwn = words.some((word) => word.name === one);
              return (
                <button
                  key={one}
                  type="button"
                  aria-pressed={one === name}
                  aria-label={isOwn ? `${one}, recorded` : one}
                  onClick={() => choose(one)}
                  className={`min-h-11 min-w-11 rounded-lg border-2 px-2.5 text-lg font-semibold ${one === name ? 'border-ink bg-selection' : 'border-faint hover:border-quiet'}`}
                >
                  {one}
                  {isOwn && <span className="ml-1 text-carry-text">✓</span>}
                </button>
              );
            })}
          </div>
          <form
            className="flex items-center gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              takeOther();
            }}
          >
            <TextField
              label="Another"
              placeholder="from the top"
              value={other}
              onText={setOther}
              maxLength={40}
            />
            <Button type="submit">Choose</Button>
          </form>
          <Recorder
            key={name}
            name={name}
            own={own ?? null}
            onKeep={keep}
            onRemove={() => void remove(name)}
            onNext={() => {
              const next = names.find((one) => one !== name && !words.some((word) => word.name === one));
              if (next !== undefined) choose(next);
            }}
          />
        </div>
      )}
      <div className="mt-3 flex justify-end">
        <Button onClick={onClose}>Done</Button>
      </div>
    </DialogShell>
  );
}

/** The words that are kept, and ways to keep and take out; the voice of the page follows. */
function useOwnWords() {
  const { loudspeaker } = usePlayback();
  const [words, setWords] = useState<readonly OwnWord[]>([]);
  useEffect(() => {
    let isWanted = true;
    ownVoice.words().then(
      (kept) => isWanted && setWords(kept),
      () => undefined,
    );
    return () => {
      isWanted = false;
    };
  }, []);
  const changed = async () => {
    setWords(await ownVoice.words());
    loudspeaker.open();
    await loudspeaker.changeVoice();
  };
  return {
    words,
    keep: (word: OwnWord) => ownVoice.keep(word).then(changed),
    remove: (name: string) => ownVoice.remove(name).then(changed),
  };
}

interface RecorderProps {
  readonly name: string;
  readonly own: OwnWord | null;
  readonly onKeep: (word: OwnWord) => Promise<void>;
  readonly onRemove: () => void;
  readonly onNext: () => void;
}

function Recorder({ name, own, onKeep, onRemove, onNext }: RecorderProps) {
  const { recording, says, record } = useRecording(name, onKeep);
  const hear = useHearing(name);
  return (
    <section aria-label={`The word ${name}`} className="grid gap-3 rounded-xl border-2 border-faint p-4">
      <div className="flex flex-wrap items-center gap-4">
        <span className="font-display text-5xl font-bold">{name}</span>
        <Button filled autoFocus aria-pressed={recording !== null} onClick={record}>
          {recording ? 'That was it' : own ? 'Record it again' : 'Record it'}
        </Button>
        {own && !recording && (
          <>
            <Button onClick={() => void hear()}>Hear it</Button>
            <Button onClick={onNext}>Next word</Button>
            <Button onClick={onRemove}>Take it out</Button>
          </>
        )}
      </div>
      {own ? (
        <WordWave word={own} />
      ) : (
        <p className="flex h-20 items-center text-quiet">Not recorded: the voice that ships says it.</p>
      )}
      <p role="status" className="min-h-7 text-lg font-semibold">
        {says}
      </p>
    </section>
  );
}

function useRecording(name: string, onKeep: (word: OwnWord) => Promise<void>) {
  const [recording, setRecording] = useState<WordRecording | null>(null);
  const [says, say] = useState('');
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => void (isHere.current = false);
  }, []);
  // What is said after the dialog was left, or another word chosen, is not kept.
  useEffect(() => () => recording?.drop(), [recording]);
  const record = () => {
    if (recording) {
      recording.end();
      return;
    }
    recordWord(name)
      .then(async (begun) => {
        if (!isHere.current) begun.drop();
        setRecording(begun);
        say(`Listening: say “${name}”`);
        const word = await begun.word;
        if (!word) return;
        await onKeep(word);
        say('Kept. Hear how it lands');
      })
      .catch((error: unknown) => say((error as Error).message))
      .finally(() => setRecording(null));
  };
  return { recording, says, record };
}

const BEAT_SECONDS = 0.6;
const FIRST_SECONDS = 0.9;

/** Four beats, and the word on the last: whether it lands is heard against a soft click. */
function useHearing(name: string): () => Promise<void> {
  const playback = usePlayback();
  useEffect(() => () => playback.stop(), [playback]);
  return () => {
    const beats = [0, 1, 2, 3].map((beat) => ({
      timeSeconds: FIRST_SECONDS + beat * BEAT_SECONDS,
      kind: 'beat' as const,
    }));
    const last = FIRST_SECONDS + 3 * BEAT_SECONDS;
    const said = { timeSeconds: last, kind: 'countoff' as const, word: name, roomSeconds: 2 };
    return playback.audition(listedSounds([...beats, said], last + 2));
  };
}
