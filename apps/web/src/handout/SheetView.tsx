import { howMany } from '@anchorbeat/core';
import { fileNameOf } from '@anchorbeat/formats';
import { SHEETS } from '@anchorbeat/sheets';
import { useDeferredValue, useMemo, useState } from 'react';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { Progress } from '../files/Progress.tsx';
import { useKept } from '../kept/kept.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { download } from '../ui/download.ts';
import { pngOf } from './png.ts';
import { chosenDocument, chosenSheet, keptSheetSettings, type SheetChoice } from './sheetChoice.ts';
import { SheetForm } from './SheetForm.tsx';
import { SheetPages } from './SheetPages.tsx';
import type { SheetOrder } from './sheetWork.ts';
import { useSheetTask } from './useSheetTask.ts';

/** Sheets as they will be printed, with what may be chosen of them. */
export function SheetView() {
  const proof = useProof();
  const [choice, setChoice] = useChoice();
  const shown = useDeferredValue(choice);
  const pages = useMemo(() => chosenDocument(proof, shown).pages, [proof, shown]);
  const { share, make, cancel } = useSheetTask();
  const name = [fileNameOf(proof.piece.title), choice.sheetId, readerName(choice)].filter(Boolean).join('-');
  const save = (
    kind: Exclude<SheetOrder['kind'], 'pages'>,
    keep: (bytes: Uint8Array<ArrayBuffer>) => unknown,
  ) => void make({ kind, piece: proof.piece, choice }, keep);
  const act = (id: string, key: string, words: string, label: string, does: () => void): Act => ({
    id: `handout.sheet.${id}`,
    key,
    name: words,
    label,
    group: 'Hand out',
    does,
  });
  const pdf = act('pdf', 's', 'save the sheet as PDF', 'Save PDF', () =>
    save('pdf', (bytes) => download([bytes], `${name}.pdf`, 'application/pdf')),
  );
  const others = [
    act('print', 'r', 'print the sheet', 'Print', () => window.print()),
    act('svg', 'v', 'save the line as an SVG picture', 'Picture .svg', () =>
      save('picture', (bytes) => download([bytes], `${name}.svg`, 'image/svg+xml')),
    ),
    act('png', 'g', 'save the line as a PNG picture', 'Picture .png', () =>
      save('picture', async (bytes) => download([await pngOf(bytes)], `${name}.png`, 'image/png')),
    ),
  ];
  const kinds = SHEETS.map(({ id, name: words }, index) =>
    act(id, String(index + 1), `choose the sheet: ${words.toLowerCase()}`, words, () =>
      setChoice({ ...choice, sheetId: id }),
    ),
  );
  useActs('view', [pdf, ...others, ...kinds]);
  return (
    <div className="mt-4 grid min-w-0 items-start gap-6 lg:grid-cols-[22rem_minmax(0,1fr)]">
      <section aria-label="What is printed" className="min-w-0 lg:sticky lg:top-0">
        <SheetForm proof={proof} choice={choice} onChoice={setChoice} />
        <div className="mt-4 flex flex-wrap gap-2">
          <ActButton act={pdf} filled />
          {others.map((other) => (
            <ActButton key={other.id} act={other} />
          ))}
        </div>
        <div className="mt-3 h-12">
          {share !== null && <Progress label="Making the sheet …" share={share} onCancel={cancel} />}
        </div>
      </section>
      <section
        className="min-w-0"
        aria-label={`${chosenSheet(choice).name}, ${howMany(pages.length, 'page')}`}
      >
        <SheetPages pages={pages} />
      </section>
    </div>
  );
}

function readerName({ reader, ...choice }: SheetChoice): string {
  if (!chosenSheet({ reader, ...choice }).hears.includes('section')) return '';
  return fileNameOf(typeof reader === 'object' ? reader.section : reader);
}

/** What is chosen: how it is printed is kept in this browser, for whom and which bars is not. */
function useChoice(): readonly [SheetChoice, (choice: SheetChoice) => void] {
  const [kept, keep] = useKept(keptSheetSettings);
  const [moment, setMoment] = useState<
    Pick<SheetChoice, 'sheetId' | 'reader'> & { from: number; to: number }
  >({
    sheetId: SHEETS[0].id,
    reader: 'director',
    from: 0,
    to: Infinity,
  });
  const { sheetId, reader, from, to } = moment;
  const choice = useMemo(
    () => ({ sheetId, reader, settings: { ...kept, section: null, from, to } }),
    [kept, sheetId, reader, from, to],
  );
  return [
    choice,
    ({ settings, ...next }) => {
      const { from: nextFrom, to: nextTo, section: _section, ...printed } = settings;
      keep(printed);
      setMoment({ ...next, from: nextFrom, to: nextTo });
    },
  ];
}
