import { sectionsOf, type SeamKind } from '@anchorbeat/core';
import { useNavigate } from 'react-router';
import type { Act } from '../acts/act.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import { barSelected } from '../store/mapSlice.ts';
import { useAppDispatch } from '../store/store.ts';
import { playedName, usePlayingAlong } from '../takes/playingAlong.ts';
import type { SeamsAction, SeamsState } from './seamsState.ts';
import type { Target, ToldSeam } from './target.ts';

/** What is opened over the seams. */
export type SoundSheetName = 'levels' | 'microphone';

interface SeamsActsOptions {
  readonly state: SeamsState;
  readonly dispatchSeams: (action: SeamsAction) => void;
  readonly seams: readonly ToldSeam[];
  readonly kinds: readonly SeamKind[];
  readonly target: Target | null;
  readonly chooseBar: (barIndex: number) => void;
  readonly onKeep: (target: Target) => void;
  readonly onSheet: (sheet: SoundSheetName) => void;
}

/** What can be done among the seams, whichever is looked at. */
export function useSeamsActs({
  state: { wishes },
  dispatchSeams,
  seams,
  kinds,
  target,
  chooseBar,
  onKeep,
  onSheet,
}: SeamsActsOptions) {
  const { piece } = useProof();
  const { playsAlong, next } = usePlayingAlong();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const at = seams.findIndex(({ barIndex }) => target?.kind === 'seam' && barIndex === target.place.barIndex);
  const choose = (place: number) => {
    const seam = seams[Math.min(Math.max(place, 0), seams.length - 1)];
    if (seam) chooseBar(seam.barIndex);
  };
  const toMap = (bar: number) => {
    dispatch(barSelected({ bar }));
    void navigate('../map', { relative: 'path' });
  };
  const act = (id: string, key: string, name: string, does: () => void, more: Partial<Act> = {}): Act => ({
    id: `seams.${id}`,
    key,
    name,
    group: 'Seams',
    does,
    ...more,
  });
  const here = { group: 'With this place', may: target !== null };
  return {
    next: act('next', 'ArrowDown', 'the next seam', () => choose(at + 1)),
    previous: act('previous', 'ArrowUp', 'the seam before', () => choose(at - 1)),
    first: act('first', 'Home', 'the first seam', () => choose(0)),
    last: act('last', 'End', 'the last seam', () => choose(seams.length - 1)),
    order: act('order', 'o', 'in which order', () => dispatchSeams({ kind: 'nextOrder' }), {
      state: wishes.order,
    }),
    kind: act('kind', 'k', 'of which kind', () => dispatchSeams({ kind: 'nextKind', kinds }), {
      state: wishes.kind ?? 'every kind',
    }),
    section: act(
      'section',
      's',
      'with which section',
      () => dispatchSeams({ kind: 'nextSection', sections: sectionsOf(piece) }),
      { state: wishes.section ?? 'every section' },
    ),
    rehearsed: act('rehearsed', 'n', 'by their record', () => dispatchSeams({ kind: 'nextRehearsed' }), {
      state: wishes.rehearsed,
    }),
    levels: act('levels', 'v', 'how loud each sound is', () => onSheet('levels'), { label: 'levels' }),
    microphone: act('microphone', 'q', 'listen to takes with the microphone', () => onSheet('microphone'), {
      label: 'microphone',
    }),
    along: act('along', 'i', 'play along', next, { state: playedName(playsAlong) }),
    keep: act('keep', 'p', 'keep this drill with the piece', () => target && onKeep(target), {
      label: 'keep',
      ...here,
    }),
    map: act('map', 'm', 'to this place on the map', () => target && toMap(target.place.barIndex), {
      label: 'map',
      ...here,
    }),
  };
}

/** What is offered beside a place: the microphone where somebody plays along. */
export function besidePlace(
  { along, microphone, keep, map }: ReturnType<typeof useSeamsActs>,
  views: readonly Act[],
): readonly Act[] {
  const isPlayed = along.state !== playedName(null);
  return [...views.filter(({ may }) => may), along, ...(isPlayed ? [microphone] : []), keep, map];
}
