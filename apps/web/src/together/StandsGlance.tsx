import type { Act } from '../acts/act.ts';
import { useRoomView } from '../room/RoomContext.tsx';
import { standsWords } from './presence.ts';

/** At the podium, in a few words: how many stands are there and whether they go together. Pressed, all about them. */
export function StandsGlance({ act }: { readonly act: Act }) {
  const { response, view } = useRoomView();
  if (!response) return null;
  const isLost = view?.connection === 'lost';
  const words = isLost ? 'no line to the room' : standsWords(view?.stands ?? []);
  const isWell = !isLost && !/not locked/.test(words);
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
