/** A column as long as is asked for, beginning as the given one does; the rest is 0. */
export function grown(column: Int32Array, length: number): Int32Array<ArrayBuffer> {
  const more = new Int32Array(length);
  more.set(column);
  return more;
}
