import type { DrillResponse, SaveDrillRequest } from '@anchorbeat/contract';
import type { DrillPlace, DrillSettings, DrillWay, LadderPlan } from '@anchorbeat/core';
import { barOfPlaceMaybe, capital, PLAIN_LADDER, WAYS } from '@anchorbeat/core';
import { toast } from '../ui/toast.ts';
import { useProof } from '../piece/PieceLayout.tsx';
import {
  problemText,
  useListDrillsQuery,
  useRemoveDrillMutation,
  useSaveDrillMutation,
} from '../store/api.ts';
import { savedRevisionMaybe } from '../store/pieceSlice.ts';
import { useAppSelector } from '../store/store.ts';
import { v4 as uuid } from 'uuid';
import { placeOf } from './placedRun.ts';
import { placeName, type Target } from './target.ts';

/** A drill as the screen has it. */
export interface OpenDrill {
  readonly place: DrillPlace;
  readonly drill: DrillSettings;
  readonly ladder: LadderPlan | null;
  readonly way: DrillWay;
}

/** The drills kept with the piece: kept with one key, opened as they were, taken away with a way back. */
export function useKeptDrills(pieceId: string) {
  const { compiled } = useProof();
  const revision = useAppSelector((state) => savedRevisionMaybe(state.piece.open));
  const { data } = useListDrillsQuery(pieceId);
  const [save] = useSaveDrillMutation();
  const [remove] = useRemoveDrillMutation();
  const put = async (id: string, drill: SaveDrillRequest, says: string) => {
    const { error } = await save({ pieceId, id, drill });
    toast(error ? problemText(error) : says);
  };
  return {
    drills: data ?? [],
    /**
     * A drill as it was kept, the bar it is at now and, where it is no seam, its bars as an address; null, with a word about it,
     * where its bars are gone.
     */
    openMaybe: (keptDrill: DrillResponse) => {
      const drill = openDrill(keptDrill);
      const { kind, bars } = drill.place;
      const bar = barOfPlaceMaybe(compiled.labels, drill.place);
      if (bar !== null)
        return { ...drill, bar, barsText: kind === 'seam' ? null : `${bar}-${bar + bars - 1}` };
      toast('The bars of this drill are not in the piece any more');
      return null;
    },
    keep: (target: Target, open: Omit<OpenDrill, 'place'>) => {
      const place = placeName(compiled, target.place);
      const name = `${capital(place)}, ${nameOf(open)}`;
      const request = { ...requestOf(name, { ...open, place: target.place }), revision };
      void put(uuid(), request, `Kept: ${name}`);
    },
    remove: ({ id, savedAt: _savedAt, placeNow: _now, ...drill }: DrillResponse) => {
      void remove({ pieceId, id }).then(({ error }) => {
        if (error) toast(problemText(error));
        else
          toast(`Taken away: ${drill.name}`, {
            action: { label: 'Bring back', onClick: () => void put(id, drill, `Back: ${drill.name}`) },
          });
      });
    },
  };
}

function nameOf({ drill, ladder, way }: Omit<OpenDrill, 'place'>): string {
  if (ladder) return `ladder from ${ladder.startPercent} to ${ladder.goalPercent} %`;
  const tempo = `${Math.round(drill.percent)} %`;
  return way === 'play' ? `${tempo}, ${drill.click}` : `${WAYS[way].name.toLowerCase()}, ${tempo}`;
}

function openDrill(kept: DrillResponse): OpenDrill {
  return {
    place: placeOf(kept),
    drill: {
      context: { before: kept.contextBefore, after: kept.contextAfter },
      percent: kept.percent,
      click: kept.click,
      spoken: kept.spoken,
      rounds: kept.rounds,
    },
    ladder:
      kept.ladderStages.length === 0
        ? null
        : {
            startPercent: kept.startPercent,
            goalPercent: kept.goalPercent,
            step: { by: kept.stepBy, size: kept.stepSize },
            rule: kept.ladderRule,
            stages: kept.ladderStages,
          },
    way: kept.way,
  };
}

function requestOf(name: string, { place, drill, ladder, way }: OpenDrill): SaveDrillRequest {
  const plan = ladder ?? PLAIN_LADDER;
  return {
    name,
    placeKind: place.kind,
    barIndex: place.barIndex,
    label: place.label,
    bars: place.bars,
    contextBefore: drill.context.before,
    contextAfter: drill.context.after,
    percent: drill.percent,
    click: drill.click,
    spoken: drill.spoken,
    rounds: drill.rounds,
    way,
    ladderStages: ladder ? plan.stages : [],
    startPercent: plan.startPercent,
    goalPercent: plan.goalPercent,
    stepBy: plan.step.by,
    stepSize: plan.step.size,
    ladderRule: plan.rule,
  };
}
