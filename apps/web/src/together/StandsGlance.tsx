import { ensembleSeamWords, type Proof } from '@anchorbeat/core';
import type { Act } from '../acts/act.ts';
import { useRoomView } from '../room/RoomContext.tsx';
import { standsWords } from './presence.ts';
import { useStandsElsewhere } from './useStandsElsewhere.ts';
import type { SectionTakes } from './useSectionTakes.ts';

/** At the podium, in a few words: how many stands are there and whether they go together. Pressed, all about them. */
export function StandsGlance({ act }: { readonly act: Act }) {
  const { response, view } = useRoomView();
  const elsewhere = useStandsElsewhere();
  if (!response) return null;
  const isLost = view?.connection === 'lost';
  const words = isLost
    ? 'no line to the room'
    : elsewhere
      ? `stands at “${elsewhere.title}”`
      : standsWords(view?.stands ?? []);
  const isWell = !isLost && !elsewhere && !/not locked/.test(words);
  return (
    <button
      type="button"
      aria-label={`${act.name}: ${words}`}
      data-testid="stands-glance"
      className={`ml-auto truncate whitespace-nowrap ${isWell ? 'text-carry-text' : 'text-problem'}`}
      onClick={() => act.does()}
    >
      {words}
    </button>
  );
}

interface SectionsGlanceProps {
  readonly act: Act;
  readonly proof: Proof;
  readonly played: SectionTakes;
}

/** After a run that stands tapped along with: the first thing that went wrong. Pressed, all of it. */
export function SectionsGlance({ act, proof, played }: SectionsGlanceProps) {
  const [worst] = ensembleSeamWords(proof, played.together.seams);
  const words = worst ?? 'all seams held';
  return (
    <button
      type="button"
      aria-label={`${act.name}: ${words}`}
      data-testid="sections-glance"
      className={`min-w-0 truncate whitespace-nowrap font-semibold ${worst ? 'text-seam' : 'text-carry-text'}`}
      onClick={() => act.does()}
    >
      {words}
    </button>
  );
}
