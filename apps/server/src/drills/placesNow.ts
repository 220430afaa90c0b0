import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import {
  barLabels,
  barsMovedToLast,
  barTexts,
  movedPlaceMaybe,
  movedTake,
  readPiece,
  type BarsMoved,
  type BarTexts,
  type PieceDocument,
} from '@anchorbeat/core';
import type { DrillResponse, RunResponse } from '@anchorbeat/contract';
import { In, MoreThanOrEqual, Repository } from 'typeorm';
import { RevisionEntity } from '../database/entities.ts';

type Placed = Pick<DrillResponse | RunResponse, 'placeKind' | 'barIndex' | 'bars' | 'revision' | 'placeNow'>;

/** Bars of saved states that are held at once, of all pieces together. */
const MOST_BARS_HELD = 100_000;
const NO_BARS: BarTexts = { whole: [], besides: [] };
/** Saved states that are read at once. */
const READ_AT_ONCE = 10;

/** Says of what was noted in a piece where that is now: bars that came before it or went since have moved it. */
@Injectable()
export class PlacesNow {
  /** Bars by the id of a saved state, the one that was asked for last at the end. A saved state never changes. */
  private readonly held = new Map<string, BarTexts>();
  private barsHeld = 0;

  constructor(@InjectRepository(RevisionEntity) private readonly revisions: Repository<RevisionEntity>) {}

  async ofDrills(pieceId: string, drills: readonly DrillResponse[]): Promise<DrillResponse[]> {
    const { moved, labels } = await this.movedSince(pieceId, drills);
    return drills.map((drill) => placed(drill, moved, labels));
  }

  /** The same of runs, and of the seams of their takes. */
  async ofRuns(pieceId: string, runs: readonly RunResponse[]): Promise<RunResponse[]> {
    const { moved, labels } = await this.movedSince(pieceId, runs);
    return runs.map((run) => {
      const since = moved.get(run.revision ?? 0);
      return since ? withSeams(placed(run, moved, labels), since) : run;
    });
  }

  /** How bars moved since the revisions at which something was noted, where any did; and how the newest prints its bars. */
  private async movedSince(pieceId: string, noted: readonly Placed[]) {
    const moved = new Map<number, BarsMoved>();
    const wanted = new Set(noted.flatMap(({ revision }) => revision ?? []));
    const newest = await this.revisions.findOne({ where: { pieceId }, order: { revision: 'DESC' } });
    if (!newest || [...wanted].every((revision) => revision === newest.revision))
      return { moved, labels: [] };
    const piece = JSON.parse(newest.document) as PieceDocument;
    const asked = await this.between(pieceId, wanted, Math.floor(MOST_BARS_HELD / piece.bars.length));
    const states: BarTexts[] = [];
    for (let from = 0; from < asked.length; from += READ_AT_ONCE)
      states.push(...(await this.barsOf(asked.slice(from, from + READ_AT_ONCE).map(({ id }) => id))));
    const all = barsMovedToLast([...states, barTexts(piece.bars)]);
    for (const [index, { revision }] of asked.entries()) {
      const since = all[index] ?? [];
      if (since.some((bar, was) => bar !== was)) moved.set(revision, since);
    }
    const reading = readPiece(piece);
    return { moved, labels: reading.ok ? barLabels(reading.piece) : [] };
  }

  /** Saved states from the oldest of some on: every one, for bars are followed best step by step; of very many those and some between. */
  private async between(pieceId: string, wanted: ReadonlySet<number>, most: number) {
    const all = await this.revisions.find({
      where: { pieceId, revision: MoreThanOrEqual(Math.min(...wanted)) },
      select: { id: true, revision: true },
      order: { revision: 'ASC' },
    });
    const every = Math.ceil(all.length / Math.max(1, most));
    return all.filter(({ revision }, index) => index % every === 0 || wanted.has(revision));
  }

  private async barsOf(ids: readonly string[]): Promise<readonly BarTexts[]> {
    const unread = ids.filter((id) => !this.held.has(id));
    const rows = unread.length > 0 ? await this.revisions.findBy({ id: In(unread) }) : [];
    const read = new Map(rows.map(({ id, document }) => [id, textsOf(document)]));
    return ids.map((id) => {
      const bars = this.held.get(id) ?? read.get(id) ?? NO_BARS;
      this.hold(id, bars);
      return bars;
    });
  }

  private hold(id: string, bars: BarTexts): void {
    if (!this.held.delete(id)) this.barsHeld += bars.whole.length;
    this.held.set(id, bars);
    for (const [oldest, { whole }] of this.held) {
      if (this.barsHeld <= MOST_BARS_HELD) break;
      this.held.delete(oldest);
      this.barsHeld -= whole.length;
    }
  }
}

function textsOf(document: string): BarTexts {
  return barTexts((JSON.parse(document) as PieceDocument).bars);
}

function placed<Noted extends Placed>(
  noted: Noted,
  moved: ReadonlyMap<number, BarsMoved>,
  labels: ReadonlyArray<string | null>,
): Noted {
  const { placeKind: kind, barIndex, bars, revision } = noted;
  const since = moved.get(revision ?? 0);
  if (!since) return noted;
  const now = movedPlaceMaybe({ kind, barIndex, bars }, since);
  return { ...noted, placeNow: now && { ...now, label: labels[now.barIndex] ?? null } };
}

function withSeams(run: RunResponse, moved: BarsMoved): RunResponse {
  const { take, sectionTakes } = run;
  return {
    ...run,
    ...(take && { take: movedTake(take, moved) }),
    ...(sectionTakes && {
      sectionTakes: sectionTakes.map((one) => ({ ...one, take: movedTake(one.take, moved) })),
    }),
  };
}
