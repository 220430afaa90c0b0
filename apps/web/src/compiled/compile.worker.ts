import { compilePiece, type CompiledPiece, type Piece } from '@anchorbeat/core';

export interface CompileRequest {
  readonly id: number;
  readonly piece: Piece;
}

export interface CompileAnswer {
  readonly id: number;
  readonly compiled: CompiledPiece;
}

self.onmessage = ({ data }: MessageEvent<CompileRequest>) => {
  const answer: CompileAnswer = { id: data.id, compiled: compilePiece(data.piece) };
  self.postMessage(answer);
};
