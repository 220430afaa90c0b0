import { barStart, pieceSeconds } from '@anchorbeat/core';
import { useProof } from '../piece/PieceLayout.tsx';
import { useAppSelector } from '../store/store.ts';
import { settingsNow } from '../store/transportSlice.ts';

/** How far into the piece, and how long to its end at the tempo it is run at. */
export function RunClock({ performed }: { readonly performed: number }) {
  const { compiled } = useProof();
  const percent = useAppSelector(({ transport }) => settingsNow(transport).percent);
  const at = barStart(compiled.timeline, performed);
  const left = ((pieceSeconds(compiled.timeline) - at) * 100) / percent;
  return (
    <span className="numeral text-[length:var(--text)] whitespace-nowrap text-quiet" data-testid="run-clock">
      <b className="text-ink">{clock(at)}</b> · {clock(left)} to go
    </span>
  );
}

/** "2:05" */
function clock(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
