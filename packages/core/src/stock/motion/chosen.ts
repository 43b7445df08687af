import type { Bone } from './bones';
import type { Performing } from './performing';

/** Numbers of the joints of these names; of none, all. What is not there is left out. */
export function chosenJoints({ joints }: Performing, names: readonly string[]): number[] {
  if (names.length === 0) return [...joints.keys()];
  return names.map((name) => joints.indexOf(name)).filter((i) => i >= 0);
}

/** The bones between chosen joints: those that hang on a chosen one, where only one is. */
export function chosenBones(performing: Performing, names: readonly string[]): Bone[] {
  const chosen = new Set(chosenJoints(performing, names));
  const between = performing.bones.filter((b) => chosen.has(b.from) && chosen.has(b.to));
  if (between.length > 0) return between;
  return performing.bones.filter((b) => chosen.has(b.to));
}
