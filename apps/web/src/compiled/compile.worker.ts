import { sayNotesIn } from '@anchorbeat/core';
import { CompileDesk, type SaidRequest } from './compileAnswer.ts';

const desk = new CompileDesk();

self.onmessage = ({ data: { noteNames, ...request } }: MessageEvent<SaidRequest>) => {
  sayNotesIn(noteNames);
  self.postMessage(desk.answer(request));
};
