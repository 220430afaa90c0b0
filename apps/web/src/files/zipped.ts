import { Zip, ZipPassThrough } from 'fflate';

/** Files in one zip, as they are: sound does not become smaller. */
export function zipped(
  files: ReadonlyArray<{ readonly name: string; readonly parts: Iterable<Uint8Array> }>,
): ReadonlyArray<Uint8Array<ArrayBuffer>> {
  const parts: Array<Uint8Array<ArrayBuffer>> = [];
  const zip = new Zip((error, bytes) => {
    if (error) throw error;
    parts.push(Uint8Array.from(bytes));
  });
  for (const { name, parts: content } of files) {
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    for (const bytes of content) entry.push(bytes);
    entry.push(new Uint8Array(0), true);
  }
  zip.end();
  return parts;
}
