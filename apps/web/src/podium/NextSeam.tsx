import { formatMeter, oddBarMaybe, seamWords, type Seam } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { EquivalenceText } from '../line/NoteText.tsx';

/** What changes next, in how many bars, and what carries over; under it the change after that. */
export function NextSeam({ performed }: { readonly performed: number }) {
  const { compiled } = useProof();
  const upcoming = compiled.seams.filter((seam) => seam.performed > performed).slice(0, 2);
  const [next, then] = upcoming;
  return (
    <div className="contents" data-testid="next-seam">
      {next ? (
        <p className="text-[length:var(--large)] leading-snug">
          <b className="numeral text-seam">{countdown(next.performed - performed)}</b>
          <span className="ml-[0.5em]">
            <SeamText seam={next} isCarryDrawn={next.carry !== null} />
          </span>
          {next.carry && (
            <span className="ml-[0.6em] font-semibold whitespace-nowrap text-carry">
              <EquivalenceText equivalence={next.carry} />
            </span>
          )}
        </p>
      ) : (
        <p className="text-[length:var(--large)] text-quiet">No more seams to the end</p>
      )}
      {then && (
        <p className="podium-then mt-1.5 truncate text-[length:var(--text)] text-quiet">
          then <SeamText seam={then} />
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

function countdown(bars: number): string {
  return bars === 1 ? 'next bar' : `in ${bars} bars`;
}
