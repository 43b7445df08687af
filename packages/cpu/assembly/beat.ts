/** Says that a long task goes on; whoever runs it gives this. */
export declare function beat(): void;

/** So many things of a tile are drawn between two words. */
const EVERY: i32 = 1024;

/** To be called for each thing of a tile, by its number. */
// @inline
export function beatAt(i: i32): void {
  if ((i & (EVERY - 1)) == 0) beat();
}
