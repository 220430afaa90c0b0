import {
  ensembleSeamWords,
  ensembleTake,
  keptSectionTakes,
  runOf,
  type EnsembleTake,
  type Proof,
  type SectionTake,
} from '@anchorbeat/core';
import type { StandTake } from '@anchorbeat/contract';
import { useEffect, useRef, useState } from 'react';
import { toast } from '../ui/toast.ts';
import { useRoomView } from '../room/RoomContext.tsx';
import { isRunOf } from '../sound/sounding.ts';
import { amendLastRun } from '../store/runLogging.ts';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { analyseInWorker } from '../takes/analyseTake.ts';

/** What is kept of it in the log. */
const MOST_NOTE = 200;
const NO_TAKES: readonly StandTake[] = [];

export interface SectionTakes {
  readonly runId: string;
  /** Of the piece as it was run. */
  readonly proof: Proof;
  readonly percent: number;
  readonly takes: readonly SectionTake[];
  /** All of them together. */
  readonly together: EnsembleTake;
}

/** What the stands played along with the room's last run, worked out; null where none did. It is kept with the run in the log. */
export function useSectionTakes(proof: Proof): SectionTakes | null {
  const dispatch = useAppDispatch();
  const { view } = useRoomView();
  const open = useAppSelector((state) => state.piece.open);
  const lastLogged = useAppSelector((state) => state.transport.lastLogged);
  const [worked, setWorked] = useState<SectionTakes | null>(null);
  const noted = useRef<{ readonly takes: SectionTakes | null; readonly note: string }>({
    takes: null,
    note: '',
  });
  const run = view?.room?.run;
  const stands = view?.takes ?? NO_TAKES;
  const isRun = run !== undefined && run !== null && isRunOf(run, open, proof);
  useEffect(() => {
    // What was played along with the piece as it was is not to be told of it as it is.
    if (!isRun || !run || stands.every((stand) => stand.runId !== run.id)) return undefined;
    let isWanted = true;
    const { plan } = runOf(proof, run.session);
    if (!plan) return undefined;
    const own = stands.filter((stand) => stand.runId === run.id);
    Promise.all(
      own.map(async (stand) => {
        const { onsets, play } = stand;
        const take = await analyseInWorker({ piece: proof.piece, plan, take: { onsets, play } });
        return { section: nameOf(stand, own), take };
      }),
    )
      .then((takes) => {
        if (isWanted)
          setWorked({
            runId: run.id,
            proof,
            percent: run.session.settings.percent,
            takes,
            together: ensembleTake(proof, takes),
          });
      })
      .catch((error: unknown) =>
        toast(`What the stands played could not be worked out: ${(error as Error).message}`),
      );
    return () => {
      isWanted = false;
    };
  }, [proof, isRun, stands, run]);
  const current = worked && worked.runId === run?.id && worked.proof === proof ? worked : null;
  useEffect(() => {
    if (!current || lastLogged?.run.id !== current.runId || noted.current.takes === current) return;
    const words = ensembleSeamWords(proof, current.together.seams).join('. ');
    // What the director wrote stays; what was told before by fewer stands is told anew.
    const isOurs = lastLogged.run.note === '' || lastLogged.run.note === noted.current.note;
    const note = isOurs ? words.slice(0, MOST_NOTE) : lastLogged.run.note;
    noted.current = { takes: current, note };
    amendLastRun(dispatch, lastLogged, { note, sectionTakes: keptSectionTakes(current.takes) });
  }, [current, lastLogged, proof, dispatch]);
  return current;
}

/** A section by its name; where it has several stands each by its own too, or by its number. */
function nameOf(stand: StandTake, all: readonly StandTake[]): string {
  const { section, name } = stand;
  const same = all.filter((other) => other.section === section);
  return same.length === 1 ? section : `${section} (${name || same.indexOf(stand) + 1})`;
}
