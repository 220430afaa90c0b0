import { entryWords, nextEntryMaybe } from '@anchorbeat/core';
import { useMemo } from 'react';
import { useProof } from '../piece/PieceLayout.tsx';
import { countdown } from '../ui/countdown.ts';
import { useLeftOut } from './useLeftOut.ts';

/** Who comes in next, in how many bars. */
export function NextEntry({ performed }: { readonly performed: number }) {
  const proof = useProof();
  const leftOut = useLeftOut();
  const next = useMemo(() => nextEntryMaybe(proof, performed, leftOut), [proof, performed, leftOut]);
  if (!next) return null;
  return (
    <p
      className="podium-entry mt-1 truncate text-[length:var(--text)] text-entry-text"
      data-testid="next-entry"
    >
      <b className="numeral">{countdown(next.inBars)}</b>
      <span className="ml-3">{entryWords(next.marks)}</span>
    </p>
  );
}
