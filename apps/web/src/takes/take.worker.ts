import type { TakeQuestion } from './analyseTake.ts';
import { answerTake } from './takeAnswer.ts';

self.onmessage = ({ data }: MessageEvent<TakeQuestion>) => self.postMessage(answerTake(data));
