import { barName, formatMeter, seamWords } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import type { ToldSeam } from './target.ts';

interface SeamRowProps {
  readonly told: ToldSeam;
  readonly isShown: boolean;
  readonly readiness: number | null;
  readonly onChoose: () => void;
}

/** One seam of the list: how hard, where, what changes, how ready. */
export function SeamRow({ told, isShown, readiness, onChoose }: SeamRowProps) {
  const { piece, compiled } = useProof();
  const { seam, barIndex } = told;
  const { score } = seam.difficulty;
  const bar = piece.bars[barIndex];
  return (
    <li>
      <button
        type="button"
        aria-current={isShown}
        onClick={onChoose}
        className={`grid w-full grid-cols-[2.6rem_1fr_auto] items-center gap-3 rounded-lg border-l-4 px-2.5 py-1.5 text-left ${isShown ? 'border-seam bg-raised' : 'border-transparent hover:bg-raised'}`}
      >
        <span className="numeral text-2xl font-extrabold text-seam" title="Difficulty, of 100">
          {score}
        </span>
        <span className="min-w-0">
          <span className="numeral block font-bold first-letter:uppercase">
            {barName(compiled.labels, barIndex)}
            {bar?.rehearsalMark !== undefined && ` · ${bar.rehearsalMark}`}
          </span>
          <span className="block truncate text-[0.95rem] text-quiet">
            {seam.changes.includes('meter') && bar && `${formatMeter(bar.meter)}, `}
            {seamWords({ piece, compiled }, seam)}
          </span>
        </span>
        {readiness !== null && (
          <span className="numeral text-[0.95rem] font-semibold text-carry-text" title="Ready">
            {Math.round(100 * readiness)} %
          </span>
        )}
      </button>
    </li>
  );
}
