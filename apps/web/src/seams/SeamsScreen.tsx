import { SEAM_KINDS, seamDetails, type Seam, type SeamDetails, type SeamKind } from '@anchorbeat/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useProof } from '../app/PieceLayout.tsx';
import { usePlayback } from '../sound/PlaybackContext.tsx';
import { barSelected } from '../store/mapSlice.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { usePlaceTheme } from '../theme/useTheme.tsx';
import { KeyHint } from '../ui/KeyHint.tsx';
import { useKeys } from '../ui/useKeys.ts';
import { SeamCard } from './SeamCard.tsx';
import { SeamRow } from './SeamRow.tsx';
import { useSeamDrill } from './useSeamDrill.ts';

/** A transition of the piece with everything that is told about it. */
export interface ToldSeam {
  readonly seam: Seam;
  readonly details: SeamDetails;
  readonly barIndex: number;
}

const KINDS: ReadonlyArray<SeamKind | null> = [null, ...SEAM_KINDS];

/** Every transition of the piece, worst first: what changes, what holds, what goes wrong, and its drill one key away. */
export function SeamsScreen() {
  usePlaceTheme('desk');
  const { piece } = useProof();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const playback = usePlayback();
  const [inOrder, setInOrder] = useState(false);
  const [kind, setKind] = useState<SeamKind | null>(null);
  const [chosen, setChosen] = useState(0);
  const seams = useToldSeams(inOrder, kind);
  const index = Math.min(chosen, seams.length - 1);
  const shown = seams[index];
  const drill = useSeamDrill(shown?.seam ?? null);
  const isRunning = useAppSelector((state) => state.transport.status !== 'stopped');
  useEffect(() => () => playback.stop(), [playback]);
  const choose = (to: number) => {
    if (isRunning) playback.stop();
    setChosen(Math.min(Math.max(to, 0), seams.length - 1));
  };
  const act: Readonly<Record<string, () => void>> = {
    ArrowDown: () => choose(index + 1),
    ArrowUp: () => choose(index - 1),
    Home: () => choose(0),
    End: () => choose(seams.length - 1),
    ' ': () => void drill.toggle().catch((error: unknown) => toast((error as Error).message)),
    o: () => setInOrder(!inOrder),
    k: () => {
      setKind(KINDS[(KINDS.indexOf(kind) + 1) % KINDS.length] ?? null);
      choose(0);
    },
    '[': () => drill.changePercent(-5),
    ']': () => drill.changePercent(5),
    '+': () => drill.changeContext(1),
    '-': () => drill.changeContext(-1),
    m: () => {
      if (!shown) return;
      dispatch(barSelected({ bar: shown.barIndex }));
      void navigate('../map', { relative: 'path' });
    },
  };
  useKeys(({ key, command }) => {
    if (command || !act[key]) return false;
    act[key]();
    return true;
  });
  return (
    <main className="flex h-full min-w-0">
      <section aria-label="Seams" className="flex w-[25rem] shrink-0 flex-col border-r-2 border-faint">
        <header className="px-6 pt-6 pb-3">
          <h1 className="text-3xl font-bold">{seams.length === 1 ? '1 seam' : `${seams.length} seams`}</h1>
          <p className="truncate text-quiet">{piece.title}</p>
          <div className="mt-2 flex flex-wrap gap-x-3">
            <KeyHint
              keyName="o"
              label={inOrder ? 'worst first' : 'in order'}
              onPress={act['o'] as () => void}
            />
            <KeyHint keyName="k" label={kind ?? 'every kind'} onPress={act['k'] as () => void} />
          </div>
        </header>
        <SeamList seams={seams} index={index} onChoose={choose} />
      </section>
      <section aria-label="The seam" className="min-w-0 flex-1 overflow-y-auto px-10 pt-6 pb-8">
        {shown ? (
          <SeamCard told={shown} drill={drill} isRunning={isRunning} acts={act} />
        ) : (
          <p className="mt-10 text-lg text-quiet">
            {kind
              ? `No seam of this kind: ${kind}.`
              : 'Nothing changes in this piece, so there is nothing to fall apart at.'}
          </p>
        )}
      </section>
    </main>
  );
}

/** The seams by written bar, each once, as they are asked for. */
function useToldSeams(inOrder: boolean, kind: SeamKind | null): readonly ToldSeam[] {
  const { piece, compiled } = useProof();
  const all = useMemo(() => {
    const byBar = new Map<number, ToldSeam>();
    for (const seam of compiled.seams) {
      const barIndex = compiled.timeline.route.barIndex[seam.performed] ?? 0;
      if (byBar.has(barIndex)) continue;
      byBar.set(barIndex, { seam, barIndex, details: seamDetails(piece, compiled.timeline, seam) });
    }
    return [...byBar.values()];
  }, [piece, compiled]);
  return useMemo(() => {
    const wanted = all.filter(({ details }) => kind === null || details.kind === kind);
    return inOrder ? wanted : [...wanted].sort((a, b) => b.seam.difficulty.score - a.seam.difficulty.score);
  }, [all, inOrder, kind]);
}

interface SeamListProps {
  readonly seams: readonly ToldSeam[];
  readonly index: number;
  readonly onChoose: (index: number) => void;
}

function SeamList({ seams, index, onChoose }: SeamListProps) {
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    list.current?.children[index]?.scrollIntoView({ block: 'nearest' });
  }, [index]);
  return (
    <ol ref={list} className="min-h-0 flex-1 overflow-y-auto px-3 pb-6" tabIndex={-1}>
      {seams.map((told, place) => (
        <SeamRow key={told.barIndex} told={told} isShown={place === index} onChoose={() => onChoose(place)} />
      ))}
    </ol>
  );
}
