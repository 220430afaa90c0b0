const KEPT_MS = 10_000;

/** Hands a file to the browser to keep. */
export function download(parts: readonly BlobPart[], fileName: string, type: string): void {
  const url = URL.createObjectURL(new Blob([...parts], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), KEPT_MS);
}
