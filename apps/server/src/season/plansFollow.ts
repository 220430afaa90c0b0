import { movedKeyMaybe, type BarsMoved } from '@anchorbeat/core';
import { MOST_KEY_LENGTH, type SaveDateRequest } from '@anchorbeat/contract';
import { IsNull, MoreThan, type EntityManager } from 'typeorm';
import { DateEntity, type PieceEntity } from '../database/entities.ts';

/** A rehearsal that was so long ago is over, wherever it was. */
const OVER_MS = 3 * 86_400_000;

/** Has what is wished and was done of the plans to come go with the bars of a piece, in the transaction that moves them. */
export async function plansFollow(
  manager: EntityManager,
  { id, ensembleId }: Pick<PieceEntity, 'id' | 'ensembleId'>,
  moved: BarsMoved,
): Promise<void> {
  if (moved.every((bar, was) => bar === was)) return;
  const from = new Date(Date.now() - OVER_MS).toISOString();
  const dates = await manager.findBy(DateEntity, { ensembleId, deletedAt: IsNull(), at: MoreThan(from) });
  for (const { id: dateId, details } of dates) {
    const now = dateFollowing(details, id, moved);
    if (JSON.stringify(now) !== JSON.stringify(details))
      await manager.update(DateEntity, dateId, { details: now });
  }
}

/** A date whose plan speaks of a piece, once the bars of that have moved. */
function dateFollowing(details: SaveDateRequest, pieceId: string, moved: BarsMoved): SaveDateRequest {
  const { wishes, done } = details;
  const keyOf = (key: string) => movedKeyMaybe(key, pieceId, moved);
  const keys = (list: readonly string[]) => [...new Set(list.flatMap((key) => keyOf(key) ?? []))];
  const minutes = new Map(
    wishes.minutes.flatMap((one) => {
      const key = keyOf(one.key);
      return key === null ? [] : [[key, { ...one, key }] as const];
    }),
  );
  return {
    ...details,
    wishes: {
      pinned: keys(wishes.pinned),
      skipped: keys(wishes.skipped),
      order: keys(wishes.order),
      minutes: [...minutes.values()],
    },
    // What was done stays done, also where its bars are gone; no other place is taken for it.
    done: done.map((item) => ({
      ...item,
      key: keyOf(item.key) ?? `gone ${item.key}`.slice(0, MOST_KEY_LENGTH),
    })),
  };
}
