import { choice, number, radiiDial, type ValuesOf } from '../../language/dials';
import type { BoneRadii } from '../../feeds/feeds';
import { jointNames } from '../../stock/motion/cast';
import type { Bone } from '../../stock/motion/bones';
import type { Motion, Performer } from '../../stock/types';

/** Dials of all performers: who of a motion they are, and where and how large they stand. */

const metres = { varies: 'never' as const, unit: 'm', group: 'Place' };

export const who = number('Who', 0, [0, 64], 'The number of one of its performers; 0 is all.', {
  whole: true,
});

export const placeDials = {
  across: number('Across', 0, [-1000, 1000], 'How far to the right it is moved.', metres),
  above: number('Above', 0, [-1000, 1000], 'How high its floor is.', metres),
  towards: number('Towards', 0, [-1000, 1000], 'How far to the front it is moved.', metres),
  facing: number('Turn', 0, [-3600, 3600], 'About the upright.', {
    varies: 'never',
    unit: '°',
    group: 'Place',
  }),
  up: choice('Up', 'y', { y: 'y', z: 'z' }, 'The axis that points up in what comes in.', {
    group: 'Place',
  }),
  thickness: number('Thickness', 1, [0.05, 10], 'Of the body about the bones.', {
    varies: 'never',
    drag: 'log',
    group: 'Body',
  }),
  radii: radiiDial(
    'Bones',
    'How thick bones are, by the joint that each ends in; others are as suits their length. Thickness multiplies both.',
    { group: 'Body' },
  ),
};

/** Those who are meant, with their numbers, and names of all their joints; null where there is nobody. */
export function whoOf(
  { performers }: Motion,
  number: number,
): { who: number[]; people: Performer[]; joints: string[] } | null {
  const all = [...performers.keys()];
  const who = number === 0 ? all : all.filter((n) => n === number - 1);
  if (who.length === 0) return null;
  const people = who.map((n) => performers[n]!);
  return { who, people, joints: jointNames(people) };
}

/** Bones as thick as is said of some of them, and as they are of others. */
export function thickened(
  bones: readonly Bone[],
  joints: readonly string[],
  { radii, thickness }: { radii: BoneRadii; thickness: number },
): Bone[] {
  const said = new Map(radii.map(({ joint, radius }) => [joint, radius]));
  return bones.map((bone) => {
    const radius = said.get(joints[bone.to]!) ?? bone.radius;
    return { ...bone, radius: radius * thickness };
  });
}

/** Puts places of a motion where the dials say; changes them. */
export function placed(
  dials: Omit<ValuesOf<typeof placeDials>, 'thickness' | 'radii'>,
  scale: number,
  floor: number,
): (places: Float32Array) => Float32Array {
  const { across, above, towards, facing, up } = dials;
  const [cos, sin] = [Math.cos((facing * Math.PI) / 180), Math.sin((facing * Math.PI) / 180)];
  return (places) => {
    for (let i = 0; i < places.length; i += 3) {
      const [x, a, b] = [places[i]!, places[i + 1]!, places[i + 2]!];
      // z up: a quarter turn about x brings it to y, and y to the back.
      const [y, z] = up === 'z' ? [b, -a] : [a, b];
      places[i] = across + scale * (x * cos + z * sin);
      places[i + 1] = above + scale * (y - floor);
      places[i + 2] = towards + scale * (z * cos - x * sin);
    }
    return places;
  };
}
