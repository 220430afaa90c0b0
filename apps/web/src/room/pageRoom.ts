import { toast } from '../ui/toast.ts';
import { DirectorRoom } from './directorRoom.ts';

/** The rehearsal that this page may have open for others. */
export const pageRoom = new DirectorRoom();

pageRoom.onOver = (words) => toast(words);
