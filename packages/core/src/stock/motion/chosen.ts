import { memo } from '../memo';
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

/** Whole numbers as kernels read them: bits of i32. */
export function wholeBits(all: readonly number[]): Float32Array {
  return new Float32Array(Int32Array.from(all).buffer);
}

/** Bones as kernels read them: numbers of the joints at both ends (bits of i32), and radii in metres. */
export interface BoneRows {
  from: Float32Array;
  to: Float32Array;
  radius: Float32Array;
}

export function boneRows(bones: readonly Pick<Bone, 'from' | 'to' | 'radius'>[]): BoneRows {
  return {
    from: wholeBits(bones.map((b) => b.from)),
    to: wholeBits(bones.map((b) => b.to)),
    radius: Float32Array.from(bones, (b) => b.radius),
  };
}

/** The chosen bones of a performer as rows, the same each time. */
export function chosenRows(performing: Performing, names: readonly string[]): BoneRows {
  return memo(performing, `bones ${names.join('\n')}`, () =>
    boneRows(chosenBones(performing, names)),
  );
}
