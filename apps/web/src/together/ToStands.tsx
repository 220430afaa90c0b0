import { PLAYED_CHOICES, type RoomState } from '@anchorbeat/core';
import { useState, type FormEvent } from 'react';
import { Link } from 'react-router';
import { useAppSelector } from '../store/store.ts';
import { PLAYED_NAMES } from '../takes/playingAlong.ts';
import { Button } from '../ui/Button.tsx';
import { useStandsElsewhere } from './useStandsElsewhere.ts';

/** Says something to the room; what is refused is told. */
export type Say = (event: string, message: object) => void;

/** Where the stands have another piece open: which, the way there, and this one instead. */
export function Elsewhere({ mayShow, say }: { readonly mayShow: boolean; readonly say: Say }) {
  const elsewhere = useStandsElsewhere();
  const open = useAppSelector((state) => state.piece.open);
  if (!elsewhere || !open) return null;
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      <span>
        The stands have{' '}
        <Link className="font-semibold underline" to={`/piece/${elsewhere.pieceId}/podium`}>
          {elsewhere.title}
        </Link>{' '}
        open
      </span>
      {mayShow && open.revision > 0 && (
        <Button onClick={() => say('open', { pieceId: open.id, revision: open.revision })}>
          Show them “{open.present.title}”
        </Button>
      )}
    </div>
  );
}

/** Whether the stands may keep the piece that is open here, to practise their hard places alone. */
export function TakeHome({ room: { shared }, say }: { readonly room: RoomState; readonly say: Say }) {
  const open = useAppSelector((state) => state.piece.open);
  if (!open) return null;
  const { id: pieceId, revision } = open;
  const { title } = open.present;
  const others = shared.filter((piece) => piece.pieceId !== pieceId);
  const isShared = others.length < shared.length;
  const change = () =>
    say('share', { pieces: isShared ? others : [...others, { pieceId, revision, title }] });
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      <Button aria-pressed={isShared} onClick={change}>
        {isShared ? `“${title}” is theirs to practise at home` : `Let stands take “${title}” home`}
      </Button>
      {others.length > 0 && (
        <span className="text-quiet">also {others.map((piece) => piece.title).join(', ')}</span>
      )}
    </div>
  );
}

/** What all stands tap along with, so that one sees afterwards who did what. */
export function TapsAlong({ room, say }: { readonly room: RoomState; readonly say: Say }) {
  return (
    <label className="mt-4 flex flex-wrap items-center gap-3 text-quiet">
      stands tap along
      <select
        className="rounded-lg border-2 border-faint bg-ground px-2 py-1.5 text-ink"
        value={room.playsAlong ?? ''}
        onChange={({ target }) => say('settings', { playsAlong: target.value === '' ? null : target.value })}
      >
        <option value="">nobody does</option>
        {PLAYED_CHOICES.map((play) => (
          <option key={play} value={play}>
            {PLAYED_NAMES[play]}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Words that stand on a section's stands until others take their place. */
export function Words({ sections, say }: { readonly sections: readonly string[]; readonly say: Say }) {
  const [words, setWords] = useState('');
  const [to, setTo] = useState('');
  const send = (event: FormEvent) => {
    event.preventDefault();
    say('tell', { sections: to === '' ? sections : [to], words: words.trim() });
    setWords('');
  };
  return (
    <form className="mt-4 flex flex-wrap items-center gap-3" onSubmit={send}>
      <select
        aria-label="To whom"
        className="rounded-lg border-2 border-faint bg-ground px-2 py-1.5"
        value={to}
        onChange={({ target }) => setTo(target.value)}
      >
        <option value="">to all</option>
        {sections.map((section) => (
          <option key={section} value={section}>
            to {section}
          </option>
        ))}
      </select>
      <input
        aria-label="Words for their stands"
        placeholder="watch the carry at 15"
        maxLength={160}
        className="min-w-0 flex-1 basis-56 rounded-lg border-2 border-faint bg-ground px-2.5 py-1.5"
        value={words}
        onChange={({ target }) => setWords(target.value)}
      />
      <Button type="submit">Show</Button>
    </form>
  );
}

export function NextUp({ room, say }: { readonly room: RoomState; readonly say: Say }) {
  const [next, setNext] = useState(room.next);
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        say('settings', { next: next.trim() });
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-3 text-quiet">
        comes next
        <input
          placeholder="bars 12 to 15, slowly"
          maxLength={120}
          className="min-w-0 flex-1 rounded-lg border-2 border-faint bg-ground px-2.5 py-1.5 text-ink"
          value={next}
          onChange={({ target }) => setNext(target.value)}
        />
      </label>
      <Button type="submit" disabled={next.trim() === room.next}>
        Show
      </Button>
    </form>
  );
}
