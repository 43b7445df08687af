import { choice, number, stockDial } from '../../language/dials';
import { bonesOf } from '../../stock/motion/bones';
import { extentOf, placesAt } from '../../stock/motion/performing';
import { serialOf } from '../../stock/memo';
import { beginsAgain, secondAt } from '../../stock/played';
import { beginsAt } from '../beginsAt';
import { trimDials } from '../trim';
import { performer } from '../define';

const never = { varies: 'never' as const };
const metres = { ...never, unit: 'm', group: 'Place' };

export const played = performer({
  kind: 'played',
  title: 'Motion',
  help: 'Performers of a motion of the stock, who move along with the piece.',
  icon: 'M12 3.5a1.6 1.6 0 1 0 .01 0M12 7v6M7 9l5-1l5 1M12 13l-3 7M12 13l3 7',
  dials: {
    motion: stockDial(
      'Motion',
      ['motion'],
      'From a file (BVH, glTF, a table of joints), or made by code.',
    ),
    who: number('Who', 0, [0, 64], 'The number of one of its performers; 0 is all.', {
      whole: true,
    }),
    start: beginsAt('Frame at which it begins to move.'),
    speed: number('Speed', 1, [-20, 20], 'How fast it goes; below 0 backwards.', never),
    tall: number(
      'Height',
      1.75,
      [0, 1000],
      'Of the first of them at the tallest; 0 is as in the file.',
      {
        ...never,
        unit: 'm',
        group: 'Place',
      },
    ),
    across: number('Across', 0, [-1000, 1000], 'How far to the right it is moved.', metres),
    above: number('Above', 0, [-1000, 1000], 'How high its floor is.', metres),
    towards: number('Towards', 0, [-1000, 1000], 'How far to the front it is moved.', metres),
    facing: number('Turn', 0, [-3600, 3600], 'About the upright.', {
      ...never,
      unit: '°',
      group: 'Place',
    }),
    floor: choice(
      'Floor',
      'lowest',
      { lowest: 'Lowest point', file: 'As in the file' },
      'What stands on the floor of the place: the lowest that any of them comes, or 0 of the file.',
      { group: 'Place' },
    ),
    up: choice('Up', 'y', { y: 'y', z: 'z' }, 'The axis of the file that points up.', {
      group: 'Place',
    }),
    thickness: number('Thickness', 1, [0.05, 10], 'Of the body about the bones.', {
      ...never,
      drag: 'log',
      group: 'Place',
    }),
    ...trimDials,
  },
  plays: 'motion',
  strip: { start: 'start', trim: ['from', 'to'], speed: 'speed' },
  performing(dials, { rate, stock }) {
    const motion = stock(dials.motion);
    if (motion?.type !== 'motion') return undefined;
    const { performers } = motion;
    const all = [...performers.keys()];
    const who = dials.who === 0 ? all : all.filter((n) => n === dials.who - 1);
    if (who.length === 0) return undefined;
    const { tall, floor } = extentOf(motion, dials.up);
    const scale = dials.tall > 0 && tall > 0 ? dials.tall / tall : 1;
    const joints = who.flatMap((n) => {
      const { name, joints: own } = performers[n]!;
      return own.map((j) => (who.length > 1 ? `${name} ${j.name}` : j.name));
    });
    const { speed, from, to, ends } = dials;
    const playing = { start: dials.start / rate, speed, from, to, ends };
    const place = placed(dials, scale, dials.floor === 'lowest' ? floor : 0);
    const at = (time: number): Float32Array => {
      const places = new Float32Array(3 * joints.length);
      let first = 0;
      for (const n of who) {
        placesAt(motion, performers[n]!, secondAt(motion, playing, time), places, first);
        first += 3 * performers[n]!.joints.length;
      }
      return place(places);
    };
    const bones = bonesOf(motion, who, scale, tall * scale).map((bone) => ({
      ...bone,
      radius: bone.radius * dials.thickness,
    }));
    return {
      ...{ joints, bones, at },
      name: `motion.${String(serialOf(motion))}.${JSON.stringify([rate, dials])}`,
      leaps: (before, after) => beginsAgain(motion, playing, before, after),
    };
  },
});

/** Puts places of the file where the dials say; changes them. */
function placed(
  dials: { across: number; above: number; towards: number; facing: number; up: 'y' | 'z' },
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
