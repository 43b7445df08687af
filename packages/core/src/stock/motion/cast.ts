import type { Joint, Performer } from '../types';

/** Somebody of a motion, before it is known how they move. */
export type CastMember = Pick<Performer, 'name' | 'joints'>;

/** Names of the joints of some people: where they are several, with who it is before each. */
export function jointNames(cast: readonly CastMember[]): string[] {
  const several = cast.length > 1;
  return cast.flatMap(({ name, joints }) =>
    joints.map((j) => (several ? `${name} ${j.name}` : j.name)),
  );
}

/**
 * Somebody whose joints arrive: on which others they hang is as was said; where nothing was, or joints would hang on
 * themselves in the end, by how far they are from each other.
 *
 * @param bones by joint the one that it hangs on
 * @param places x, y, z of each joint
 */
export function castMember(
  name: string,
  joints: readonly string[],
  bones: Readonly<Record<string, string>>,
  places: Float32Array,
): CastMember {
  const said = joints.map((joint) => {
    const parent = Object.hasOwn(bones, joint) ? joints.indexOf(bones[joint]!) : -1;
    return { name: joint, parent };
  });
  const none = said.every((j) => j.parent < 0);
  return { name, joints: none || loopIn(said) >= 0 ? hung(joints, places) : said };
}

/** The number of a joint that hangs on itself in the end; -1 where none does. */
export function loopIn(joints: readonly Joint[]): number {
  return joints.findIndex((_, first) => {
    let at = joints[first]!.parent;
    for (let n = 0; n < joints.length && at >= 0 && at !== first; n++) at = joints[at]!.parent;
    return at === first;
  });
}

/** Joints as a tree of least length (R. C. Prim, 1957) from the first, by their mean distances. */
export function hung(names: readonly string[], places: Float32Array): Joint[] {
  const count = names.length;
  const samples = places.length / 3 / count;
  const every = Math.max(1, Math.floor(samples / 64));
  const far = (a: number, b: number): number => {
    let sum = 0;
    for (let k = 0; k < samples; k += every) {
      const [p, q] = [3 * (k * count + a), 3 * (k * count + b)];
      sum += Math.hypot(...[0, 1, 2].map((c) => places[p + c]! - places[q + c]!));
    }
    return sum;
  };
  const parents = names.map(() => 0);
  const nearest = names.map((_, i) => (i === 0 ? -1 : far(0, i)));
  const open = new Set(names.keys());
  open.delete(0);
  while (open.size > 0) {
    const next = [...open].reduce((a, b) => (nearest[b]! < nearest[a]! ? b : a));
    open.delete(next);
    for (const other of open) {
      const distance = far(next, other);
      if (distance < nearest[other]!) [nearest[other], parents[other]] = [distance, next];
    }
  }
  return names.map((name, i) => ({ name, parent: i === 0 ? -1 : parents[i]! }));
}
