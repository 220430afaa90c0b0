import { barsUntilMaybe, entryWords, nextEntryMaybe } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { countdown } from '../ui/countdown.ts';
import { useLeftOut } from './useLeftOut.ts';

/** Who comes in next, in how many bars. */
export function NextEntry({ performed }: { readonly performed: number }) {
  const { piece, compiled } = useProof();
  const leftOut = useLeftOut();
  const next = useMemo(() => {
    let entry = nextEntryMaybe({ piece, compiled }, performed + 1);
    while (entry) {
      const bars = barsUntilMaybe(leftOut, performed, entry.performed);
      if (bars !== null) return { entry, bars };
      entry = nextEntryMaybe({ piece, compiled }, entry.performed + 1);
    }
    return null;
  }, [piece, compiled, performed, leftOut]);
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
