export const READ_BEFORE: Array<{ name: string; value: string }>;
export function storeEntries(entries: typeof READ_BEFORE): void;
