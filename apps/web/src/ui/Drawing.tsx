/** Stands where a chart will be, until what draws it is there. */
export function Drawing() {
  return <p className="text-quiet">Drawing …</p>;
}
