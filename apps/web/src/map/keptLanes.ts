import { Kept, oneOf } from '../kept/kept.ts';

/** Whether the lanes of the sections are shown under the line, from near. */
export const keptLanes = new Kept('anchorbeat.lanes', oneOf(['shown', 'folded']));
