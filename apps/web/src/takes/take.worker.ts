import { analysedTake, compilePiece, takeRecordOf } from '@anchorbeat/core';
import type { TakeAnswer, TakeQuestion } from './analyseTake.ts';

self.onmessage = ({ data }: MessageEvent<TakeQuestion>) => self.postMessage(answerTo(data));

function answerTo({ id, piece, plan, take }: TakeQuestion): TakeAnswer {
  try {
    const proof = { piece, compiled: compilePiece(piece) };
    return { id, record: takeRecordOf(proof, take.play, analysedTake(proof, plan, take), plan) };
  } catch (error) {
    return { id, reason: (error as Error).message };
  }
}
