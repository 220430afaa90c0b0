import { captionsOf, fileNameOf, subRipOf, webVttOf } from '@anchorbeat/formats';
import { paperRun, PLAIN_RUN } from '@anchorbeat/core';
import { useState } from 'react';
import type { Act } from '../acts/act.ts';
import { ActButton } from '../acts/ActButton.tsx';
import { useActs } from '../acts/ActsContext.tsx';
import { useProof } from '../piece/PieceLayout.tsx';
import { download } from '../ui/download.ts';
import { NumberField } from '../ui/NumberField.tsx';

const MOST_OFFSET_SECONDS = 86_400;

const KINDS = [
  { ending: 'vtt', key: 'v', write: webVttOf, mediaType: 'text/vtt' },
  { ending: 'srt', key: 's', write: subRipOf, mediaType: 'application/x-subrip' },
] as const;

/** Captions for a video of the piece, at a tempo in percent of the printed one. */
export function CaptionForm({ percent }: { readonly percent: number }) {
  const proof = useProof();
  const [offsetSeconds, setOffset] = useState(0);
  const acts = KINDS.map(({ ending, key, write, mediaType }): Act => ({
    id: `handout.${ending}`,
    key,
    name: `save captions as .${ending}`,
    label: `Save .${ending}`,
    group: 'Hand out',
    does: () => {
      const plan = paperRun(proof, { ...PLAIN_RUN, percent });
      const text = write(captionsOf(proof, plan, offsetSeconds));
      download([text], `${fileNameOf(proof.piece.title)}.${ending}`, mediaType);
    },
  }));
  useActs('view', acts);
  return (
    <section aria-label="Captions" className="mt-8 max-w-4xl">
      <h2 className="text-2xl font-bold">Captions for a video</h2>
      <p className="mt-1 text-quiet">
        Bars, counts, what changes and your words, at the tempo above. Say where in the video the first
        count-off click falls.
      </p>
      <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-3">
        <NumberField
          label="First click at, seconds"
          value={offsetSeconds}
          min={-MOST_OFFSET_SECONDS}
          max={MOST_OFFSET_SECONDS}
          onNumber={setOffset}
        />
        {acts.map((act) => (
          <ActButton key={act.id} act={act} />
        ))}
      </div>
    </section>
  );
}
