/** A title as the name of a file, without its ending: what some system does not allow in one becomes an underscore. */
export function fileNameOf(title: string): string {
  return title.replace(/[^\p{L}\p{N} ._-]+/gu, '_') || 'piece';
}
