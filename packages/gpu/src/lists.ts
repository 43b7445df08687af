/** How lists of things are worked through on the card. */

/** Invocations in one row of the shaders that take long lists. */
const LIST_ROW = 65536;

export function listGroups(count: number): [number, number] {
  return [Math.min(LIST_ROW / 64, Math.ceil(count / 64)), Math.ceil(count / LIST_ROW)];
}

/** The stages of a bitonic sort; the order of the frame before is as good a start as any. */
export function bitonic(
  size: number,
  stage: (k: number, j: number, groups: [number, number]) => void,
): void {
  const groups = listGroups(size);
  for (let k = 2; k <= size; k *= 2) {
    for (let j = k / 2; j >= 1; j /= 2) stage(k, j, groups);
  }
}

const bits = new DataView(new ArrayBuffer(4));
/** The bits of a number of single precision. */
export function floatWord(value: number): number {
  bits.setFloat32(0, value);
  return bits.getInt32(0);
}
