import { FILE_FORMATS } from '@anchorbeat/formats';
import { readPcmMaybe, type RecordedWords, type SoundWishes } from '@anchorbeat/audio';
import { FASTEST_PERCENT, pieceSeconds, SLOWEST_PERCENT } from '@anchorbeat/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { useProof } from '../app/PieceLayout.tsx';
import type { FileWork } from '../files/fileWork.ts';
import { Progress } from '../files/Progress.tsx';
import { useFileTask } from '../files/useFileTask.ts';
import { fetchWords } from '../sound/fetchWords.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { Button } from '../ui/Button.tsx';
import { durationText } from '../ui/durationText.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { useKeys } from '../ui/useKeys.ts';

/** What each format is good for. */
const GOOD_FOR: Readonly<Record<string, string>> = {
  'piece-json': 'Everything of the piece, for another Anchorbeat or a backup.',
  'bar-table': 'One row a bar, for a spreadsheet.',
  musicxml: 'A conductor’s part, for notation programs.',
  midi: 'Meters, tempi, marks and the click as performed, for sequencers.',
};

const PLAIN_SOUND: SoundWishes = {
  sampleRate: 44_100,
  bits: 16,
  percent: 100,
  clickOn: 'pulse',
  spoken: 'count-off',
};

/** Files to take away: the piece in every format, and its click as sound. */
export function HandOut() {
  usePlaceTheme('desk');
  const { piece, compiled } = useProof();
  const task = useFileTask();
  const [sound, setSound] = useState(PLAIN_SOUND);
  const [making, setMaking] = useState('');
  const make = async (work: FileWork, fileName: string, mediaType: string) => {
    setMaking(fileName);
    const result = await task.run(work);
    if (result.kind === 'file') download(result.parts, fileName, mediaType);
    else if (result.kind === 'refused') toast(result.problems[0]?.message ?? 'This file could not be made');
  };
  const name = piece.title.replace(/[^\p{L}\p{N} ._-]+/gu, '_') || 'piece';
  const write = (index: number) => {
    const format = FILE_FORMATS[index];
    if (format)
      void make(
        { kind: 'write', format: format.id, piece },
        `${name}${format.endings[0] ?? ''}`,
        format.mediaType,
      );
  };
  const render = async () => {
    const words = sound.spoken === 'nothing' ? null : await recordedWords();
    await make({ kind: 'render', piece, sound, words }, `${name}.wav`, 'audio/wav');
  };
  useKeys(({ key, command }) => {
    if (command) return false;
    if (key === 'w') void render();
    else if (/^[1-9]$/.test(key) && FILE_FORMATS[Number(key) - 1]) write(Number(key) - 1);
    else return false;
    return true;
  });
  return (
    <main className="h-full overflow-y-auto px-8 py-7">
      <h1 className="text-4xl font-bold">Hand out</h1>
      <p className="mt-1 text-quiet">
        {piece.title} · {piece.bars.length} bars · {durationText(pieceSeconds(compiled.timeline))}
      </p>
      <div className="mt-1 h-12 max-w-4xl">
        {task.share !== null && (
          <Progress label={`Making ${making} …`} share={task.share} onCancel={task.cancel} />
        )}
      </div>
      <section aria-label="The piece as a file" className="max-w-4xl">
        <h2 className="text-2xl font-bold">The piece as a file</h2>
        <ul className="mt-2">
          {FILE_FORMATS.map(({ id, name: formatName, endings }, index) => (
            <li
              key={id}
              className="grid grid-cols-[2rem_12rem_1fr_auto] items-center gap-4 border-b border-faint py-2.5"
            >
              <kbd className="numeral text-quiet">{index + 1}</kbd>
              <span className="text-lg font-semibold">{formatName}</span>
              <span className="text-quiet">{GOOD_FOR[id]}</span>
              <Button onClick={() => write(index)}>Save {endings[0]}</Button>
            </li>
          ))}
        </ul>
      </section>
      <SoundForm sound={sound} onSound={setSound} onRender={() => void render()} />
    </main>
  );
}

interface SoundFormProps {
  readonly sound: SoundWishes;
  readonly onSound: (sound: SoundWishes) => void;
  readonly onRender: () => void;
}

const RATES = ['44100', '48000', '96000'] as const;
const BITS = ['16', '24'] as const;
const SPOKEN = ['nothing', 'count-off', 'everything'] as const;

function SoundForm({ sound, onSound, onRender }: SoundFormProps) {
  const set = (changes: Partial<SoundWishes>) => onSound({ ...sound, ...changes });
  return (
    <section aria-label="The click as sound" className="mt-8 max-w-4xl">
      <h2 className="text-2xl font-bold">The click as sound</h2>
      <p className="mt-1 text-quiet">
        With its count-off; every bar and rehearsal mark is a named place in the file. As on paper: nobody is
        there to cue.
      </p>
      <form className="mt-3 grid gap-3" onSubmit={(event) => event.preventDefault()}>
        <div className="flex items-end gap-6">
          <NumberField
            label="Tempo, % of printed"
            value={sound.percent}
            min={SLOWEST_PERCENT}
            max={FASTEST_PERCENT}
            onNumber={(percent) => set({ percent })}
          />
          <ToggleGroup
            label="Click on"
            options={(['pulse', 'subdivision'] as const).map((value) => ({ value, name: value }))}
            isOn={(value) => value === sound.clickOn}
            onToggle={(clickOn) => set({ clickOn })}
          />
        </div>
        <ToggleGroup
          label="Spoken"
          options={SPOKEN.map((value) => ({ value, name: value === 'count-off' ? 'the count-off' : value }))}
          isOn={(value) => value === sound.spoken}
          onToggle={(spoken) => set({ spoken })}
        />
        <div className="flex gap-6">
          <ToggleGroup
            label="Samples a second"
            options={RATES.map((value) => ({ value, name: value }))}
            isOn={(value) => Number(value) === sound.sampleRate}
            onToggle={(value) => set({ sampleRate: Number(value) as SoundWishes['sampleRate'] })}
          />
          <ToggleGroup
            label="Bits"
            options={BITS.map((value) => ({ value, name: value }))}
            isOn={(value) => Number(value) === sound.bits}
            onToggle={(value) => set({ bits: Number(value) as SoundWishes['bits'] })}
          />
        </div>
        <div>
          <Button filled onClick={onRender} className="flex items-center gap-2">
            <kbd className="rounded border border-current px-1.5 text-xs">w</kbd>
            Save .wav
          </Button>
        </div>
      </form>
    </section>
  );
}

/** The spoken counts as samples; null where they cannot be had, and clicks stand for them. */
async function recordedWords(): Promise<RecordedWords | null> {
  const words = await fetchWords();
  const pcm = words && readPcmMaybe(new Uint8Array(words.file));
  return pcm && { ...pcm, index: words.index };
}

function download(parts: ReadonlyArray<Uint8Array<ArrayBuffer>>, fileName: string, type: string): void {
  const url = URL.createObjectURL(new Blob([...parts], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
