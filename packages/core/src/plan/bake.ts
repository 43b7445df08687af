/** The stored motion of a swarm: its whole state at each frame, exactly as it was simulated. */
export interface Bake {
  /** Names it; another bake has another name. */
  readonly name: string;
  /** First and last frame that are stored. */
  readonly first: number;
  readonly last: number;
  /** Slots, and what is stored of each, as in SwarmPlan. */
  readonly capacity: number;
  readonly state: readonly string[];
  /** Ids below this had been born at the end of a frame. */
  bornAt(frame: number): number;
  /** The state at a frame, in the order of `state`: the slots in use. */
  read(frame: number): readonly Float32Array[];
}

/** Where each frame of a bake begins in its file, in bytes, and where the last one ends. */
export function bakeOffsets(born: readonly number[], capacity: number, states: number): number[] {
  const offsets = [0];
  for (const n of born) offsets.push(offsets.at(-1)! + 4 * states * Math.min(n, capacity));
  return offsets;
}
