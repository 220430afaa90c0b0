import { accepted, refused, type Result } from '../problem/problem.ts';
import type { Proof } from '../proof/proof.ts';
import { paperRun, placesIn, type NamedPlace } from '../run/paperRun.ts';
import type { RunPlan } from '../run/runPlan.ts';
import { PLAIN_RUN, type RunSettings } from '../run/settings.ts';
import { soundsOf, type RunSounds } from '../run/sounds.ts';
import { drillRunMaybe, PLAIN_DRILL, type DrillSettings } from './drill.ts';
import { drillOnRung, type Rung } from './ladder.ts';
import type { DrillPlace } from './place.ts';

/** How much of a piece is wanted as sound. A drill is gone round so many times, each rung of a ladder likewise. */
export type SoundExtent =
  | { readonly kind: 'piece' }
  | { readonly kind: 'count-off' }
  | { readonly kind: 'drill'; readonly place: DrillPlace; readonly rounds: number }
  | {
      readonly kind: 'ladder';
      readonly place: DrillPlace;
      readonly rounds: number;
      readonly rungs: readonly Rung[];
    };

/** What of a run's settings a sound for paper is made with. */
export type SoundSettings = Pick<RunSettings, 'percent' | 'clickOn' | 'spoken'>;

/** Sounds that end, with the places in them that have a name. */
export interface PlacedSounds {
  readonly sounds: RunSounds;
  readonly places: readonly NamedPlace[];
}

/** Between two rungs of a ladder: to turn the page and breathe. */
const BETWEEN_RUNGS_SECONDS = 4;

/** The sounds of a piece, its count-off, a drill or a ladder as on paper, where nobody is there to cue. */
export function paperSounds(
  proof: Proof,
  extent: SoundExtent,
  settings: SoundSettings,
): Result<PlacedSounds> {
  const run = (wanted: RunSettings, from = 0) => placed(proof, paperRun(proof, wanted, from));
  const plain = { ...PLAIN_RUN, ...settings };
  switch (extent.kind) {
    case 'piece':
      return accepted(run(plain));
    case 'count-off':
      return countOffAlone(proof, paperRun(proof, plain));
    case 'drill':
    case 'ladder': {
      const drill: DrillSettings = {
        ...PLAIN_DRILL,
        percent: settings.percent,
        spoken: settings.spoken,
        rounds: extent.rounds,
      };
      const rungs: ReadonlyArray<Rung | null> = extent.kind === 'ladder' ? extent.rungs : [null];
      const parts: PlacedSounds[] = [];
      for (const rung of rungs) {
        const round = rung ? drillOnRung(drill, rung) : drill;
        const ready = drillRunMaybe(proof.compiled, extent.place, round);
        if (!ready) return refused('This place is never performed');
        const sounded = rung ? ready.settings : { ...ready.settings, clickOn: settings.clickOn };
        parts.push(run(sounded, ready.from));
      }
      return accepted(inARow(parts, BETWEEN_RUNGS_SECONDS));
    }
  }
}

/** Several sounds as one, so many seconds of silence between them. */
export function inARow(parts: readonly PlacedSounds[], pauseSeconds: number): PlacedSounds {
  let end = 0;
  const started = parts.map(({ sounds, places }, index) => {
    const start = index === 0 ? 0 : end + pauseSeconds;
    end = start + sounds.lengthSeconds;
    return { start, sounds, places };
  });
  return {
    sounds: {
      clicksIn: ({ fromSeconds, toSeconds }) =>
        started.flatMap(({ start, sounds }) => {
          if (start >= toSeconds || start + sounds.lengthSeconds < fromSeconds) return [];
          return sounds
            .clicksIn({ fromSeconds: fromSeconds - start, toSeconds: toSeconds - start })
            .map((click) => ({ ...click, timeSeconds: click.timeSeconds + start }));
        }),
      lengthSeconds: end,
    },
    places: started.flatMap(({ start, places }) =>
      places.map(({ seconds, label }) => ({ seconds: seconds + start, label })),
    ),
  };
}

function placed(proof: Proof, plan: RunPlan): PlacedSounds {
  return { sounds: soundsOf(proof, plan), places: placesIn(proof, plan) };
}

function countOffAlone(proof: Proof, plan: RunPlan): Result<PlacedSounds> {
  const music = plan.stretches.find(({ kind }) => kind === 'music');
  const lengthSeconds = music?.runSeconds ?? plan.lengthSeconds;
  if (!(lengthSeconds > 0)) return refused('This piece starts without a count-off');
  const { clicksIn } = soundsOf(proof, plan);
  return accepted({
    sounds: {
      clicksIn: ({ fromSeconds, toSeconds }) =>
        clicksIn({ fromSeconds, toSeconds: Math.min(toSeconds, lengthSeconds - 1e-6) }),
      lengthSeconds,
    },
    places: [],
  });
}
