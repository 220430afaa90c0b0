import { formatMeter, oddBarMaybe, seamWords, type Seam } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { EquivalenceText } from '../line/NoteText.tsx';

/** What changes next, in how many bars, and what carries over; under it the change after that. */
export function NextSeam({ performed }: { readonly performed: number }) {
  const { compiled } = useProof();
  const upcoming = compiled.seams.filter((seam) => seam.performed > performed).slice(0, 2);
  const [next, then] = upcoming;
  return (
    <div className="mt-3 min-h-[6rem]" data-testid="next-seam">
      {next ? (
        <p className="text-[2.15rem] leading-snug">
          <b className="numeral text-seam">{countdown(next.performed - performed)}</b>
          <span className="ml-4">
            <SeamText seam={next} />
          </span>
          {next.carry && (
            <span className="ml-5 font-semibold whitespace-nowrap text-carry">
              <EquivalenceText equivalence={next.carry} />
            </span>
          )}
        </p>
      ) : (
        <p className="text-[2rem] text-quiet">No more seams to the end</p>
      )}
      {then && (
        <p className="mt-2 text-[1.6rem] text-quiet">
          then <SeamText seam={then} />
        </p>
      )}
    </div>
  );
}

function SeamText({ seam }: { readonly seam: Seam }) {
  const { piece, compiled } = useProof();
  const barIndex = compiled.timeline.route.barIndex[seam.performed] ?? 0;
  const bar = piece.bars[barIndex];
  const parts = [
    seam.changes.includes('meter') && bar && formatMeter(bar.meter),
    oddBarMaybe(piece, barIndex)?.words ?? seamWords({ piece, compiled }, seam),
  ];
  return <>{parts.filter(Boolean).join(', ')}</>;
}

function countdown(bars: number): string {
  return bars === 1 ? 'next bar' : `in ${bars} bars`;
}
