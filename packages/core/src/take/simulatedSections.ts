import type { Proof } from '../proof/proof.ts';
import type { RunClick, RunPlan } from '../run/runPlan.ts';
import type { RunSounds } from '../run/sounds.ts';
import type { PlayedChoice } from './names.ts';
import { simulatedTake, type Habit } from './simulatedPlayer.ts';

/** What simulated sections do, and what they play. */
export interface SectionsWish {
  readonly habit: Habit;
  readonly seed: number;
  readonly play: PlayedChoice;
}

/** A simulated section: when it sounds, in seconds of the run, and on which MIDI note. */
interface SimulatedSection {
  readonly onsets: readonly number[];
  readonly pitch: number;
}

/** Low, middle and high, an open chord: they are told apart also where they come together. */
const PITCHES = [50, 57, 66] as const;
/** Sections are no more even than people: each has a spread and a constant of its own, in milliseconds. */
const SPREADS_MS = [14, 18, 22] as const;
const CONSTANTS_MS = [-10, -18, -6] as const;
/** A run that waits for a cue, or goes round without end, is played along with so long. */
const MOST_SECONDS = 900;

/** Three sections with one habit, that play along with a run. Seeded: the same wish gives the same players. */
export function simulatedSections(
  proof: Proof,
  plan: RunPlan,
  { habit, seed, play }: SectionsWish,
): readonly SimulatedSection[] {
  const untilSeconds = Math.min(MOST_SECONDS, plan.lengthSeconds - 0.01);
  return PITCHES.map((pitch, part) => {
    const wishes = {
      habit,
      play,
      untilSeconds,
      spreadMs: SPREADS_MS[part] ?? 18,
      constantMs: CONSTANTS_MS[part] ?? -15,
    };
    return {
      pitch,
      onsets: simulatedTake(proof, plan, { ...wishes, seed: seed * PITCHES.length + part }).onsets,
    };
  });
}

/** A run with sections that play along with it: each is heard on its tone, from its own side. */
export function soundsWithSections(sounds: RunSounds, sections: readonly SimulatedSection[]): RunSounds {
  const tones = sections
    .flatMap(({ onsets, pitch }, part) =>
      onsets.map((timeSeconds): RunClick => ({ timeSeconds, kind: 'beat', pitch, part })),
    )
    .sort((a, b) => a.timeSeconds - b.timeSeconds);
  return {
    lengthSeconds: sounds.lengthSeconds,
    clicksIn: (window) => {
      const { fromSeconds, toSeconds } = window;
      const played = tones.filter(({ timeSeconds }) => timeSeconds >= fromSeconds && timeSeconds < toSeconds);
      return [...sounds.clicksIn(window), ...played].sort((a, b) => a.timeSeconds - b.timeSeconds);
    },
  };
}
