type Entries = Record<string, string>;
export const HEARING_NOTE: Entries;
export const READ_BEFORE: Entries;
export function storeEntries(entries: Entries): void;
