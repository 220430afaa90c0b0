import { FILE_FORMATS, fileNameOf } from '@anchorbeat/formats';
import { readPcmMaybe, type RecordedWords, type SoundWishes } from '@anchorbeat/audio';
import { FASTEST_PERCENT, SLOWEST_PERCENT } from '@anchorbeat/core';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import type { FileWork } from '../files/fileWork.ts';
import { Progress } from '../files/Progress.tsx';
import { useFileTask } from '../files/useFileTask.ts';
import { fetchWords } from '../sound/fetchWords.ts';
import { download } from '../ui/download.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { ToggleGroup } from '../ui/ToggleGroup.tsx';
import { CaptionForm } from './CaptionForm.tsx';

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
export function FilesAndSound() {
  const { piece } = useProof();
  const task = useFileTask();
  const [wishes, setWishes] = useState(PLAIN_SOUND);
  const [making, setMaking] = useState('');
  const make = async (work: FileWork, fileName: string, mediaType: string) => {
    setMaking(fileName);
    const result = await task.run(work);
    if (result.kind === 'file') download(result.parts, fileName, mediaType);
    else if (result.kind === 'refused') toast(result.problems[0]?.message ?? 'This file could not be made');
  };
  const name = fileNameOf(piece.title);
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
    const words = wishes.spoken === 'nothing' ? null : await recordedWords();
    await make({ kind: 'render', piece, sound: wishes, words }, `${name}.wav`, 'audio/wav');
  };
  const formatActs = FILE_FORMATS.map(({ id, name: formatName, endings: [ending = ''] }, index): Act => ({
    id: `handout.${id}`,
    key: String(index + 1),
    name: `save ${formatName}`,
    label: `Save ${ending}`,
    group: 'Hand out',
    does: () => write(index),
  }));
  const sound: Act = {
    id: 'handout.sound',
    key: 'w',
    name: 'save the click as sound',
    label: 'Save .wav',
    group: 'Hand out',
    does: () => void render(),
  };
  useActs('screen', [...formatActs, sound]);
  return (
    <>
      <div className="mt-1 h-12 max-w-4xl">
        {task.share !== null && (
          <Progress label={`Making ${making} …`} share={task.share} onCancel={task.cancel} />
        )}
      </div>
      <section aria-label="The piece as a file" className="max-w-4xl">
        <h2 className="text-2xl font-bold">The piece as a file</h2>
        <ul className="mt-2">
          {FILE_FORMATS.map(({ id, name: formatName }, index) => (
            <li
              key={id}
              className="grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-1 sm:grid-cols-[12rem_1fr_auto] border-b border-faint py-2.5"
            >
              <span className="text-lg font-semibold">{formatName}</span>
              <span className="text-quiet max-sm:order-last max-sm:col-span-2">{GOOD_FOR[id]}</span>
              {formatActs[index] && <ActButton act={formatActs[index]} />}
            </li>
          ))}
        </ul>
      </section>
      <SoundForm sound={wishes} onSound={setWishes} act={sound} />
      <CaptionForm percent={wishes.percent} />
    </>
  );
}

interface SoundFormProps {
  readonly sound: SoundWishes;
  readonly onSound: (sound: SoundWishes) => void;
  readonly act: Act;
}

const RATES = ['44100', '48000', '96000'] as const;
const BITS = ['16', '24'] as const;
const SPOKEN = ['nothing', 'count-off', 'everything'] as const;

function SoundForm({ sound, onSound, act }: SoundFormProps) {
  const set = (changes: Partial<SoundWishes>) => onSound({ ...sound, ...changes });
  return (
    <section aria-label="The click as sound" className="mt-8 max-w-4xl">
      <h2 className="text-2xl font-bold">The click as sound</h2>
      <p className="mt-1 text-quiet">
        With its count-off; every bar and rehearsal mark is a named place in the file. As on paper: nobody is
        there to cue.
      </p>
      <form className="mt-3 grid gap-3" onSubmit={(event) => event.preventDefault()}>
        <div className="flex flex-wrap items-end gap-x-6 gap-y-3">
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
        <div className="flex flex-wrap gap-x-6 gap-y-3">
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
          <ActButton act={act} filled />
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
