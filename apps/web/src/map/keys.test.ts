import { expect, test } from '@jest/globals';
import { ENTRIES, type EntryKind } from './entries.ts';
import { PANEL_KINDS, PANELS, panelOfKeyMaybe } from './panels/panels.ts';

/** Keys of the map that are neither an entry nor a panel: what runs, moves, takes back, zooms, or belongs to the checks. */
const OTHERS = [' ', 'v', '+', '-', '<', '>', 'q', 'f', 'i', 'j'];

test('no key of the map means two things', () => {
  const entries = (Object.keys(ENTRIES) as EntryKind[]).map((kind) => ENTRIES[kind].key);
  const panels = PANEL_KINDS.map((kind) => PANELS[kind].key);
  const all = [...entries, ...panels, ...OTHERS];
  expect(all.filter((key, index) => all.indexOf(key) !== index)).toEqual([]);
  expect(all.filter((key) => /^[0-9(A-Z]$/.test(key))).toEqual([]);
  for (const kind of PANEL_KINDS) expect(panelOfKeyMaybe(PANELS[kind].key)).toBe(kind);
});
