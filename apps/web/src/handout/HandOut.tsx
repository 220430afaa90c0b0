import { howMany, pieceSeconds } from '@anchorbeat/core';
import { useSearchParams } from 'react-router';
import type { Act } from '../acts/act.ts';
import { useActs } from '../acts/ActsContext.tsx';
import { ActHint } from '../acts/ActButton.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { durationText } from '../ui/durationText.ts';
import { FilesAndSound } from './FilesAndSound.tsx';
import { SheetView } from './SheetView.tsx';

/** What leaves the program: sheets to print, and files to take away. */
export function HandOut() {
  usePlaceTheme('desk');
  const { piece, compiled } = useProof();
  const [search, setSearch] = useSearchParams();
  const showsSheets = search.get('show') === 'sheets';
  const part = (id: string, key: string, label: string, params: Record<string, string>): Act => ({
    id: `handout.show.${id}`,
    key,
    name: `show ${label.toLowerCase()}`,
    label,
    group: 'Hand out',
    does: () => setSearch(params, { replace: true }),
  });
  const files = part('files', 'f', 'Files, sound, captions', {});
  const sheets = part('sheets', 'p', 'Sheets to print', { show: 'sheets' });
  useActs('screen', [files, sheets]);
  return (
    <main className="h-full overflow-y-auto px-4 py-4 sm:px-8 sm:py-7">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 max-sm:[&_button]:whitespace-normal">
        <h1 className="text-4xl font-bold">Hand out</h1>
        <ActHint act={files} isOn={!showsSheets} />
        <ActHint act={sheets} isOn={showsSheets} />
      </div>
      <p className="mt-1 text-quiet">
        {piece.title} · {howMany(piece.bars.length, 'bar')} · {durationText(pieceSeconds(compiled.timeline))}
      </p>
      {showsSheets ? <SheetView /> : <FilesAndSound />}
    </main>
  );
}
