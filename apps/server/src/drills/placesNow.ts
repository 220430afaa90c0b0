import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import {
  barLabels,
  barsMoved,
  barTexts,
  movedPlaceMaybe,
  movedTake,
  readPiece,
  type BarsMoved,
  type BarTexts,
  type PieceDocument,
} from '@anchorbeat/core';
import type { DrillResponse, RunResponse } from '@anchorbeat/contract';
import { In, Repository } from 'typeorm';
import { RevisionEntity } from '../database/entities.ts';

type Placed = Pick<DrillResponse | RunResponse, 'placeKind' | 'barIndex' | 'bars' | 'revision' | 'placeNow'>;

/** Bars of saved states that are held at once, of all pieces together. */
const MOST_BARS_HELD = 100_000;
/** Saved states that are read at once. */
const READ_AT_ONCE = 50;

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
    const now = barTexts(piece.bars);
    const asked = await this.revisions.find({
      where: { pieceId, revision: In([...wanted]) },
      select: { id: true, revision: true },
    });
    for (let from = 0; from < asked.length; from += READ_AT_ONCE) {
      const some = asked.slice(from, from + READ_AT_ONCE);
      const bars = await this.barsOf(some.map(({ id }) => id));
      for (const { id, revision } of some) {
        const then = bars.get(id);
        const since = then ? barsMoved(then, now) : [];
        if (since.some((bar, was) => bar !== was)) moved.set(revision, since);
      }
    }
    const reading = readPiece(piece);
    return { moved, labels: reading.ok ? barLabels(reading.piece) : [] };
  }

  private async barsOf(ids: readonly string[]): Promise<ReadonlyMap<string, BarTexts>> {
    const unread = ids.filter((id) => !this.held.has(id));
    const rows = unread.length > 0 ? await this.revisions.findBy({ id: In(unread) }) : [];
    const read = new Map(rows.map(({ id, document }) => [id, textsOf(document)]));
    const found = new Map<string, BarTexts>();
    for (const id of ids) {
      const bars = this.held.get(id) ?? read.get(id);
      if (!bars) continue;
      found.set(id, bars);
      this.hold(id, bars);
    }
    return found;
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
