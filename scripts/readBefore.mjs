/** What is said once in a browser, before its first sound and on its first screens, as it is stored when it has been read. */
export const READ_BEFORE = [
  { name: 'anchorbeat.hearingNote', value: '"read"' },
  {
    name: 'anchorbeat.seenScreens',
    value: JSON.stringify(['shelf', 'map', 'seams', 'podium', 'bench', 'handout', 'rehearse']),
  },
];

/** In a page, before anything else: `page.addInitScript(storeEntries, READ_BEFORE)`. */
export function storeEntries(entries) {
  for (const { name, value } of entries) localStorage.setItem(name, value);
}
