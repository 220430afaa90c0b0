import { proofOf, readPiece } from '@anchorbeat/core';

const OPENINGS = ['4/4', '3/4', '6/8'];
const UNEVEN = ['5/8 as 3+2', '7/8 as 2+2+3', '7/8 as 3+2+2', '8/8 as 3+3+2'];
const EQUIVALENCES = [
  ['quarter', 'dotted quarter', '6/8'],
  ['dotted quarter', 'quarter', '4/4'],
  ['eighth', 'dotted eighth', '6/8'],
  ['quarter', 'half', '4/4'],
];
const ODD = {
  '4/4': { short: '15/16 as 4+4+4+3', long: '17/16 as 4+4+4+5', rhythm: 'q q q s s s' },
  '3/4': { short: '11/16 as 4+4+3', long: '13/16 as 4+4+5', rhythm: 'q q s s s' },
  '6/8': { short: '5/8 as 3+2', long: '7/8 as 3+4', rhythm: 'e e e e e' },
};

/** A small piece with one seam that gives room for a habit; the seam's bar. */
export function sceneFor(habit, random) {
  const pick = (list) => list[Math.floor(random() * list.length)];
  const opening = pick(OPENINGS);
  const unit = opening === '6/8' ? 'dotted quarter' : 'quarter';
  const plain = (count) => Array.from({ length: count }, () => ({}));
  const bars = [
    { meter: opening, tempo: [{ tempo: `${unit} = ${60 + Math.floor(random() * 70)}` }] },
    ...plain(4 + Math.floor(random() * 3)),
  ];
  const seam = bars.length;
  const isOdd = ['filled-up', 'cut-short', 'triplet'].includes(habit);
  const kind = isOdd
    ? 'odd'
    : habit === 'turned-round' || habit === 'old-small-note'
      ? 'equivalence'
      : habit === 'lost-beat' || habit === 'gained-beat'
        ? 'uneven'
        : // Where the beat stays or only one bar is odd, keeping the old beat is no mistake of its own.
          pick(habit === 'old-pulse' ? ['tempo', 'uneven'] : ['tempo', 'odd', 'equivalence', 'uneven']);
  if (kind === 'tempo')
    bars.push({ tempo: [{ tempo: `quarter = ${60 + Math.floor(random() * 90)}` }] }, ...plain(7));
  else if (kind === 'uneven')
    bars.push({ meter: pick(UNEVEN), tempo: [{ equivalence: 'eighth = eighth' }] }, ...plain(7));
  else if (kind === 'equivalence') {
    // Where the beat is kept, the old small note gives other times than the old beat.
    const kept = opening === '6/8' ? [EQUIVALENCES[1]] : [EQUIVALENCES[0], EQUIVALENCES[2]];
    const [before, after, meter] = pick(habit === 'old-small-note' ? kept : EQUIVALENCES);
    bars.push({ meter, tempo: [{ equivalence: `${before} = ${after}` }] }, ...plain(8));
  } else {
    const { short, long, rhythm } = ODD[opening];
    bars.push({ meter: habit === 'cut-short' ? long : short, ...(habit === 'triplet' && { rhythm }) });
    bars.push({ meter: opening }, ...plain(6));
  }
  const reading = readPiece({ format: 'anchorbeat-piece', version: 1, title: 'Bench', bars });
  if (!reading.ok) throw new Error(reading.problems[0].message);
  return { proof: proofOf(reading.piece), seam };
}
