import {
  barName,
  capital,
  ensembleSeamWords,
  EXPLANATION_WORDS,
  followingWords,
  howMany,
  togetherOffWords,
  verdictWords,
  type EnsembleSeam,
  type EnsembleTake,
  type Explanation,
  type Proof,
} from '@anchorbeat/core';
import { useState } from 'react';
import { TakeSheet } from '../takes/TakeSheet.tsx';
import { useRemedy } from '../takes/useRemedy.ts';
import { Button } from '../ui/Button.tsx';
import { DialogShell } from '../ui/DialogShell.tsx';
import type { SectionTakes } from './useSectionTakes.ts';

const NOTHING_PLAYED: EnsembleTake = { seams: [], togetherOff: [], following: [] };

interface SectionsPlayedProps {
  readonly proof: Proof;
  readonly played: SectionTakes | null;
  readonly onClose: () => void;
}

/** What the sections played along with the last run: seam by seam who did what, who agrees, who listens to whom. */
export function SectionsPlayed({ proof, played, onClose }: SectionsPlayedProps) {
  const remedy = useRemedy();
  const [shown, setShown] = useState<string | null>(null);
  const { takes = [], together = NOTHING_PLAYED } = played ?? {};
  const one = takes.find(({ section }) => section === shown);
  if (one && played)
    return (
      <TakeSheet
        proof={proof}
        take={one.take}
        percent={played.percent}
        onRemedy={(kind, barIndex) => {
          onClose();
          remedy(kind, barIndex);
        }}
        onClose={() => setShown(null)}
      />
    );
  const [worst] = ensembleSeamWords(proof, together.seams);
  const says = [...togetherOffWords(proof, together.togetherOff), ...followingWords(together.following)];
  return (
    <DialogShell
      title={takes.length === 0 ? 'Nobody has played along yet' : capital(worst ?? 'Every seam was held')}
      description={
        takes.length === 0
          ? 'Let the stands tap along: All together, "stands tap along". What they played stands here after the run.'
          : `${howMany(takes.length, 'stand')} on one clock`
      }
      width="widest"
      onClose={onClose}
    >
      <ul aria-label="Seam by seam" className="mt-4">
        {together.seams.map((seam) => (
          <SeamRow key={seam.barIndex} proof={proof} seam={seam} />
        ))}
      </ul>
      {says.length > 0 && (
        <ul aria-label="Among the sections" className="mt-4 grid gap-1 text-lg">
          {says.map((words) => (
            <li key={words}>{capital(words)}</li>
          ))}
        </ul>
      )}
      <div className="mt-5 flex flex-wrap gap-3">
        {takes.map(({ section, take }) => (
          <Button key={section} onClick={() => setShown(section)}>
            {section} <span className="text-quiet">±{Math.round(take.spreadMs)} ms</span>
          </Button>
        ))}
      </div>
    </DialogShell>
  );
}

function SeamRow({ proof, seam }: { readonly proof: Proof; readonly seam: EnsembleSeam }) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-faint py-2 text-lg">
      <b className="min-w-24">{capital(barName(proof.compiled.labels, seam.barIndex))}</b>
      {seam.did.map(({ explanation, sections }) =>
        isWell(explanation) ? (
          <span key={explanation} className="text-quiet">
            <b>{sections.join(', ')}</b> {EXPLANATION_WORDS[explanation].did}
          </span>
        ) : (
          <span key={explanation}>
            {sections.map((section, index) => {
              const verdict = seam.shown.get(section);
              return (
                <span key={section}>
                  {index > 0 && ', '}
                  <b className="text-seam">{section}</b> {verdict && verdictWords(verdict)}
                </span>
              );
            })}
          </span>
        ),
      )}
    </li>
  );
}

function isWell(explanation: Explanation): boolean {
  return explanation === 'held' || explanation === 'too-few';
}
