import {
  capital,
  anchorIntoMaybe,
  barName,
  beatsIn,
  formatMeter,
  isSameMeter,
  pulseOf,
  seamWords,
  writtenBar,
  writtenIndex,
  type Proof,
  type RunPlan,
} from '@anchorbeat/core';

/** A beat inside a caption: what is counted on it, and when. */
interface CountedBeat {
  readonly seconds: number;
  readonly word: string;
}

/** What stands under a video for one bar: times in seconds of the video. */
export interface Caption {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** "Bar 12 · 15/16 as 4+4+4+3 · C" */
  readonly title: string;
  readonly counts: readonly CountedBeat[];
  /** What changes here or in the next bar, and the director's word; empty where nothing is said. */
  readonly says: string;
}

/**
 * Captions of a run, a bar each and one for its count-off. `offsetSeconds` is where in the video the first count-off click
 * falls; below zero the video begins in the middle of it. What would end before the video begins is left out.
 */
export function captionsOf(proof: Proof, plan: RunPlan, offsetSeconds: number): readonly Caption[] {
  const captions: Caption[] = [];
  let current: { key: string; title: string; says: string; counts: CountedBeat[]; to: number } | null = null;
  const close = () => {
    const [first] = current?.counts ?? [];
    if (!current || !first || current.to <= 0) return;
    const { title, says, counts, to } = current;
    captions.push({ fromSeconds: Math.max(0, first.seconds), toSeconds: to, title, counts, says });
  };
  for (const beat of beatsIn(proof, plan, { fromSeconds: 0, toSeconds: plan.lengthSeconds })) {
    if (beat.kind === 'cue') continue;
    const seconds = beat.runSeconds + offsetSeconds;
    const isBar = beat.kind === 'music';
    const key = isBar ? String(beat.performed) : 'count-off';
    // A bar that comes again in a loop begins on its first beat once more.
    const isNext: boolean = current?.key !== key || (isBar && beat.beatIndex === 0);
    if (isNext) {
      close();
      current = isBar
        ? {
            key,
            title: titleOf(proof, beat.performed),
            says: saysOf(proof, beat.performed),
            counts: [],
            to: 0,
          }
        : { key, title: 'Count-off', says: '', counts: [], to: 0 };
    }
    const word = isBar
      ? (pulseOf(writtenBar(proof, beat.performed))[beat.beatIndex]?.word ?? String(beat.beatIndex + 1))
      : (beat.countOff.beats[beat.beatIndex]?.word ?? String(beat.beatIndex + 1));
    current?.counts.push({ seconds, word });
    if (current) current.to = seconds + beat.lengthSeconds;
  }
  close();
  return captions.map((caption, index) => {
    // A hold lasts until the next bar begins.
    const next = captions[index + 1];
    return next ? { ...caption, toSeconds: next.fromSeconds } : caption;
  });
}

function titleOf(proof: Proof, performed: number): string {
  const bar = writtenBar(proof, performed);
  const before = performed > 0 ? writtenBar(proof, performed - 1) : null;
  const name = barName(proof.compiled.labels, writtenIndex(proof, performed));
  return [
    capital(name),
    before && isSameMeter(before.meter, bar.meter) ? '' : formatMeter(bar.meter),
    bar.rehearsalMark ?? '',
  ]
    .filter(Boolean)
    .join(' · ');
}

/** What changes at this bar, what comes in the next one, and the word to the ensemble. */
function saysOf(proof: Proof, performed: number): string {
  const here = anchorIntoMaybe(proof.compiled.seams, performed);
  const next = anchorIntoMaybe(proof.compiled.seams, performed + 1);
  const { note } = writtenBar(proof, performed);
  return [
    here && seamWords(proof, here),
    next && `then ${formatMeter(writtenBar(proof, performed + 1).meter)}: ${seamWords(proof, next)}`,
    note,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** WebVTT: the counts light up one after another where the player can. */
export function webVttOf(captions: readonly Caption[]): string {
  const cues = captions.map(({ fromSeconds, toSeconds, title, counts, says }, index) => {
    const counted = counts
      .map(({ seconds, word }) => {
        // A time inside a cue must lie after its beginning.
        const isAfter = Math.round(seconds * 1000) > Math.round(fromSeconds * 1000);
        return isAfter ? `<${clock(seconds, '.')}>${escaped(word)}` : escaped(word);
      })
      .join(' ');
    const lines = [escaped(title), counted, escaped(says)].filter(Boolean);
    return `${index + 1}\n${clock(fromSeconds, '.')} --> ${clock(toSeconds, '.')}\n${lines.join('\n')}\n`;
  });
  return ['WEBVTT\n', ...cues].join('\n');
}

/** SubRip, for programs that know nothing else. */
export function subRipOf(captions: readonly Caption[]): string {
  return captions
    .map(({ fromSeconds, toSeconds, title, counts, says }, index) => {
      const lines = [title, counts.map(({ word }) => word).join(' '), says].filter(Boolean);
      return `${index + 1}\n${clock(fromSeconds, ',')} --> ${clock(toSeconds, ',')}\n${lines.join('\n')}\n`;
    })
    .join('\n');
}

/** "00:01:02.345" */
function clock(seconds: number, point: '.' | ','): string {
  const milliseconds = Math.max(0, Math.round(seconds * 1000));
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  const whole = milliseconds / 1000;
  const fraction = String(milliseconds % 1000).padStart(3, '0');
  return `${two(whole / 3600)}:${two((whole / 60) % 60)}:${two(whole % 60)}${point}${fraction}`;
}

function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll(/\s+/g, ' ');
}
