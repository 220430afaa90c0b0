import type { EquivalenceOutcome } from '@anchorbeat/core';
import { EquivalenceText, TempoText } from '../line/NoteText.tsx';

/** What an equivalence makes of the tempo, told before it is set. */
export function ResultingTempo({ outcome: { tempo, likelier } }: { readonly outcome: EquivalenceOutcome }) {
  return (
    <span className="flex flex-wrap items-center gap-x-3 pt-2">
      <span>
        gives <TempoText tempo={tempo} />
      </span>
      {likelier && (
        <span className="font-semibold text-problem">
          far from usual: was <EquivalenceText equivalence={likelier.equivalence} /> meant, which gives{' '}
          <TempoText tempo={likelier.tempo} />?
        </span>
      )}
    </span>
  );
}
