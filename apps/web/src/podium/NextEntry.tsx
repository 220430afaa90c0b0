import { entryWords, nextEntryMaybe } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';

/** Who comes in next, in how many bars. */
export function NextEntry({ performed }: { readonly performed: number }) {
  const { piece, compiled } = useProof();
  const entry = useMemo(
    () => nextEntryMaybe({ piece, compiled }, performed + 1),
    [piece, compiled, performed],
  );
  if (!entry) return null;
  const bars = entry.performed - performed;
  return (
    <p
      className="podium-entry mt-1 truncate text-[length:var(--text)] text-entry-text"
      data-testid="next-entry"
    >
      <b className="numeral">{bars === 1 ? 'next bar' : `in ${bars} bars`}</b>
      <span className="ml-3">{entryWords(entry.marks)}</span>
    </p>
  );
}
