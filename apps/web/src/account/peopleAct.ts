import type { Act } from '../acts/act.ts';

/** Opens who leads and where one is signed in. */
export function peopleAct(does: () => void): Act {
  return {
    group: 'Shelf',
    id: 'shelf.people',
    key: 'p',
    name: 'who leads, and where you are signed in',
    label: 'people',
    does,
  };
}
