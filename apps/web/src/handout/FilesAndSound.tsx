import { FILE_FORMATS, fileNameOf } from '@anchorbeat/formats';
import { useState } from 'react';
import { toast } from '../ui/toast.ts';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import type { FileWork } from '../files/fileWork.ts';
import { Progress } from '../files/Progress.tsx';
import { useFileTask } from '../files/useFileTask.ts';
import { download } from '../ui/download.ts';
import { CaptionForm } from './CaptionForm.tsx';
import { isBySection, PLAIN_SOUND } from './soundChoice.ts';
import { SendForm } from './SendForm.tsx';
import { SoundForm } from './SoundForm.tsx';
import { useSoundFile } from './useSoundFile.ts';

/** What each format is good for. */
const GOOD_FOR: Readonly<Record<string, string>> = {
  'piece-json': 'Everything of the piece, for another Anchorbeat or a backup.',
  'bar-table': 'One row a bar, for a spreadsheet.',
  musicxml: 'A conductor’s part, for notation programs.',
  words: 'Line by line as one says it, for a message; without sections.',
  midi: 'Meters, tempi, marks and the click as performed, for sequencers.',
};

/** Files to take away: the piece in every format, and its click as sound. */
export function FilesAndSound() {
  const proof = useProof();
  const { piece } = proof;
  const task = useFileTask();
  const [choice, setChoice] = useState(PLAIN_SOUND);
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
  const render = useSoundFile(make);
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
    label: isBySection(choice) ? 'Save .zip' : `Save .${choice.wishes.format}`,
    group: 'Hand out',
    does: () => void render(choice),
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
            <li key={id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-faint py-2.5">
              <span className="basis-48 text-lg font-semibold max-sm:flex-1">{formatName}</span>
              <span className="min-w-0 flex-[1_1_16rem] text-quiet max-sm:order-last max-sm:basis-full">
                {GOOD_FOR[id]}
              </span>
              {formatActs[index] && <ActButton act={formatActs[index]} />}
            </li>
          ))}
        </ul>
      </section>
      <SoundForm proof={proof} choice={choice} onChoice={setChoice} act={sound} />
      <CaptionForm percent={choice.wishes.percent} />
      <SendForm />
    </>
  );
}
