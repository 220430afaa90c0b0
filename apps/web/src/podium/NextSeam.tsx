import { formatMeter, oddBarMaybe, seamsAhead, seamWords, type Seam } from '@anchorbeat/core';
import { useRef } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { useFittedWords } from './useFittedWords.ts';
import { useLeftOut } from './useLeftOut.ts';
import { EquivalenceText } from '../line/NoteText.tsx';
import { countdown } from '../ui/countdown.ts';

/** What changes next, in how many bars, and what carries over; under it the change after that. */
export function NextSeam({ performed }: { readonly performed: number }) {
  const [next, then] = seamsAhead(useProof(), performed, useLeftOut());
  const words = useRef<HTMLParagraphElement>(null);
  useFittedWords(words);
  return (
    <div className="contents" data-testid="next-seam">
      {next ? (
        <p ref={words} className="leading-snug">
          <b className="numeral text-seam">{countdown(next.inBars)}</b>
          <span className="ml-[0.5em]">
            <SeamText seam={next.seam} isCarryDrawn={next.seam.carry !== null} />
          </span>
          {next.seam.carry && (
            <span className="ml-[0.6em] font-semibold whitespace-nowrap text-carry">
              <EquivalenceText equivalence={next.seam.carry} />
            </span>
          )}
        </p>
      ) : (
        <p className="text-[length:var(--large)] text-quiet">No more seams to the end</p>
      )}
      {then && (
        <p className="podium-then mt-1.5 truncate text-[length:var(--text)] text-quiet">
          then <SeamText seam={then.seam} />
        </p>
      )}
    </div>
  );
}

interface SeamTextProps {
  readonly seam: Seam;
  /** What carries over is drawn beside it, and need not be said. */
  readonly isCarryDrawn?: boolean;
}

function SeamText({ seam, isCarryDrawn = false }: SeamTextProps) {
  const { piece, compiled } = useProof();
  const barIndex = compiled.timeline.route.barIndex[seam.performed] ?? 0;
  const bar = piece.bars[barIndex];
  const meter = seam.changes.includes('meter') && bar && formatMeter(bar.meter);
  const saidByCarry = isCarryDrawn && Boolean(meter);
  const words =
    oddBarMaybe(piece, barIndex)?.words ?? (saidByCarry ? '' : seamWords({ piece, compiled }, seam));
  const parts = [meter, words];
  return <>{parts.filter(Boolean).join(', ')}</>;
}
