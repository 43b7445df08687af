/** How lists of things are worked through on the card. */

/** Invocations in one row of the shaders that take long lists. */
const LIST_ROW = 65536;

export function listGroups(count: number): [number, number] {
  return [Math.min(LIST_ROW / 64, Math.ceil(count / 64)), Math.ceil(count / LIST_ROW)];
}

/** Stages of a bitonic sort that one invocation does at once, by numbers that only it has. */
export const SORT_STAGES = 3;

/**
 * The stages of a bitonic sort; the order of the frame before is as good a start as any.
 *
 * @param size how many numbers are sorted: a power of two, `LEAST_SORTED` at least
 * @param stages does so many stages of size `k` at once, the first between numbers `j` apart
 */
export function bitonic(
  size: number,
  stages: (count: number, k: number, j: number, groups: [number, number]) => void,
): void {
  for (let k = 2; k <= size; k *= 2) {
    for (let left = Math.log2(k); left > 0; left -= SORT_STAGES) {
      const count = Math.min(left, SORT_STAGES);
      stages(count, k, 2 ** (left - 1), listGroups(size / 2 ** count));
    }
  }
}

/** So that even invocations of most stages fill a workgroup. */
export const LEAST_SORTED = 64 * 2 ** SORT_STAGES;

const bits = new DataView(new ArrayBuffer(4));
/** The bits of a number of single precision. */
export function floatWord(value: number): number {
  bits.setFloat32(0, value);
  return bits.getInt32(0);
}
