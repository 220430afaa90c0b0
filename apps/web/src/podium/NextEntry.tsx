import { barsUntilMaybe, entryWords, nextEntryMaybe, type PerformedSpan, type Proof } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { countdown } from '../ui/countdown.ts';
import { useLeftOut } from './useLeftOut.ts';

/** Who comes in next, in how many bars. */
export function NextEntry({ performed }: { readonly performed: number }) {
  const proof = useProof();
  const leftOut = useLeftOut();
  const next = useMemo(() => playedEntryMaybe(proof, performed, leftOut), [proof, performed, leftOut]);
  if (!next) return null;
  return (
    <p
      className="podium-entry mt-1 truncate text-[length:var(--text)] text-entry-text"
      data-testid="next-entry"
    >
      <b className="numeral">{countdown(next.bars)}</b>
      <span className="ml-3">{entryWords(next.entry.marks)}</span>
    </p>
  );
}

/** The next entry among the bars that are played today; null where there is none. */
function playedEntryMaybe(proof: Proof, performed: number, leftOut: readonly PerformedSpan[]) {
  let entry = nextEntryMaybe(proof, performed + 1);
  while (entry) {
    const bars = barsUntilMaybe(leftOut, performed, entry.performed);
    if (bars !== null) return { entry, bars };
    entry = nextEntryMaybe(proof, entry.performed + 1);
  }
  return null;
}
