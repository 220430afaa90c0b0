import { analysedTake, compilePiece, takeRecordOf } from '@anchorbeat/core';
import type { TakeAnswer, TakeQuestion } from './analyseTake.ts';

/** Works out what was played; what cannot be worked out is told. */
export function answerTake({ id, piece, plan, take }: TakeQuestion): TakeAnswer {
  try {
    const proof = { piece, compiled: compilePiece(piece) };
    return { id, record: takeRecordOf(proof, take.play, analysedTake(proof, plan, take), plan) };
  } catch (error) {
    return { id, reason: (error as Error).message };
  }
}
