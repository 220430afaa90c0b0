import { toNumber } from '../fraction/fraction.ts';
import type { Proof } from '../proof/proof.ts';
import { writtenBar } from '../proof/proof.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { rhythmOnsets } from '../rhythm/rhythm.ts';
import { beatsIn } from '../run/beatsIn.ts';
import { carryNotes } from '../run/extraNotes.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { SAME_MOMENT_SECONDS } from '../timeline/sameMoment.ts';
import type { PlayedChoice } from './names.ts';

/** An onset that was asked for. */
export interface ExpectedOnset {
  /** Seconds of the run, from its first count-off click. */
  readonly seconds: number;
  readonly performed: number;
  /** Whole notes from its barline. */
  readonly atWholes: number;
  /** Whole notes from the beginning of the run's music, waits and holds left out. */
  readonly wholes: number;
  /** Beats from the beginning of the run's music: 2.5 is halfway through the third. */
  readonly beats: number;
}

/** A performed bar of a run: where it begins, in all three measures, and how long it is. */
export interface RunBar {
  readonly performed: number;
  readonly seconds: number;
  readonly wholes: number;
  readonly beats: number;
  readonly lengthSeconds: number;
  readonly lengthWholes: number;
}

/** What a run asks for, up to a moment of it. */
export interface Asked {
  readonly onsets: readonly ExpectedOnset[];
  readonly bars: readonly RunBar[];
}

interface BeatPlace {
  readonly seconds: number;
  readonly lengthSeconds: number;
  readonly performed: number;
  readonly atWholes: number;
  readonly lengthWholes: number;
  readonly isGroup: boolean;
}

/** The onsets that a run asks for from whoever plays along, and its bars. Seconds of the run. */
export function askedOf(proof: Proof, plan: RunPlan, play: PlayedChoice, untilSeconds: number): Asked {
  const beats = beatsIn(proof, plan, { fromSeconds: 0, toSeconds: untilSeconds }).flatMap(
    (beat): BeatPlace[] => {
      if (beat.kind !== 'music') return [];
      const place = pulseOf(writtenBar(proof, beat.performed))[beat.beatIndex];
      return place
        ? [
            {
              seconds: beat.runSeconds,
              lengthSeconds: beat.lengthSeconds,
              performed: beat.performed,
              atWholes: toNumber(place.atWholes),
              lengthWholes: toNumber(place.lengthWholes),
              isGroup: place.stress !== 'beat',
            },
          ]
        : [];
    },
  );
  const bars: RunBar[] = [];
  const onsets: ExpectedOnset[] = [];
  let [wholes, count] = [0, 0];
  for (let from = 0; from < beats.length;) {
    const first = beats[from] as BeatPlace;
    let to = from + 1;
    // A bar that is looped is performed again: its first beat comes once more.
    while (
      beats[to] &&
      beats[to]?.performed === first.performed &&
      (beats[to]?.atWholes ?? 0) > first.atWholes
    )
      to++;
    const inBar = beats.slice(from, to);
    const last = inBar.at(-1) as BeatPlace;
    const start = wholes - first.atWholes;
    bars.push({
      performed: first.performed,
      seconds: first.seconds,
      wholes,
      beats: count,
      lengthSeconds: last.seconds + last.lengthSeconds - first.seconds,
      lengthWholes: last.atWholes + last.lengthWholes - first.atWholes,
    });
    for (const at of placesIn(proof, first.performed, play, inBar)) {
      const index = Math.max(
        0,
        inBar.findLastIndex((beat) => beat.atWholes <= at + 1e-9),
      );
      const beat = inBar[index] as BeatPlace;
      const share = (at - beat.atWholes) / beat.lengthWholes;
      onsets.push({
        seconds: beat.seconds + share * beat.lengthSeconds,
        performed: first.performed,
        atWholes: at,
        wholes: start + at,
        beats: count + index + share,
      });
    }
    wholes += last.atWholes + last.lengthWholes - first.atWholes;
    count += inBar.length;
    from = to;
  }
  return { onsets: onsets.filter(({ seconds }) => seconds < untilSeconds + SAME_MOMENT_SECONDS), bars };
}

/** Where in a bar an onset is asked for, in whole notes from its barline. */
function placesIn(
  proof: Proof,
  performed: number,
  play: PlayedChoice,
  beats: readonly BeatPlace[],
): readonly number[] {
  const pulse = beats.map(({ atWholes }) => atWholes);
  const { rhythm } = writtenBar(proof, performed);
  switch (play) {
    case 'pulse':
      return pulse;
    case 'groups':
      return beats.filter(({ isGroup }) => isGroup).map(({ atWholes }) => atWholes);
    case 'carry':
      return [...pulse, ...carryNotes(proof, performed, null).map(toNumber)].sort((a, b) => a - b);
    case 'notes':
      return rhythm ? rhythmOnsets(rhythm).map(toNumber) : pulse;
  }
}
