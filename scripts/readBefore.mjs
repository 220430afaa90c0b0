/** What is read before the first sound, as a browser stores that it has been. */
export const HEARING_NOTE = { 'anchorbeat.hearingNote': '"read"' };

/** What is said once in a browser, before its first sound and on its first screens, as it is stored when it has been read. */
export const READ_BEFORE = {
  ...HEARING_NOTE,
  'anchorbeat.seenScreens': JSON.stringify([
    'shelf',
    'map',
    'seams',
    'podium',
    'bench',
    'handout',
    'rehearse',
  ]),
};

/** In a page, before anything else: `page.addInitScript(storeEntries, READ_BEFORE)`. A page without an address keeps nothing. */
export function storeEntries(entries) {
  if (globalThis.origin === 'null') return;
  for (const [name, value] of Object.entries(entries)) localStorage.setItem(name, value);
}
