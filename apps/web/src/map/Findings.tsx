import type { ProvedFinding } from '@anchorbeat/core';
import { useState } from 'react';
import { useProof } from '../app/PieceLayout.tsx';
import { openFindings } from '../line/FindingMarks.tsx';
import { barSelected } from '../store/mapSlice.ts';
import { useAppDispatch } from '../store/store.ts';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { useEdit } from './useEdit.ts';

/** How many places want a look; `c` goes to the next, and there it can be put right or answered. */
export function Findings() {
  const { compiled } = useProof();
  const dispatch = useAppDispatch();
  const edit = useEdit();
  const open = openFindings(compiled);
  const [at, setAt] = useState<number | null>(null);
  const shown = at === null ? undefined : open[Math.min(at, open.length - 1)];
  const next = () => {
    const index = at === null ? 0 : (at + 1) % Math.max(1, open.length);
    setAt(index);
    const finding = open[index];
    if (finding) dispatch(barSelected({ bar: finding.barIndex }));
  };
  const correct = (finding: ProvedFinding) => finding.correction && edit(finding.correction.edit);
  const answer = ({ barIndex, check }: ProvedFinding) =>
    edit({ kind: 'answerFinding', bar: barIndex, check, reason: 'as it is in the score' });
  useKeys(({ key, command }) => {
    if (command) return false;
    if (key === 'c' && open.length > 0) next();
    else if (key === 'f' && shown?.correction) correct(shown);
    else if (key === 'i' && shown) answer(shown);
    else if (key === 'Escape' && shown) setAt(null);
    else return false;
    return true;
  });
  if (open.length === 0) return null;
  return (
    <div className="flex min-w-0 items-center gap-2">
      <KeyHint keyName="c" label={`${open.length} to look at`} onPress={next} />
      {shown && (
        <p role="status" className="flex min-w-0 items-center gap-2 text-[0.9rem] font-semibold text-problem">
          <span className="truncate" title={shown.says}>
            {shown.says}
          </span>
          {shown.correction && (
            <KeyHint keyName="f" label={shown.correction.label} onPress={() => correct(shown)} />
          )}
          <KeyHint keyName="i" label="meant so" onPress={() => answer(shown)} />
        </p>
      )}
    </div>
  );
}
