import { CompileDesk, type CompileRequest } from './compileAnswer.ts';

const desk = new CompileDesk();

self.onmessage = ({ data }: MessageEvent<CompileRequest>) => self.postMessage(desk.answer(data));
