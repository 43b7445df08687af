import { choice, number, stockDial } from '../../language/dials';
import { bonesOf } from '../../stock/motion/bones';
import { extentOf, posesAt } from '../../stock/motion/performing';
import { serialOf } from '../../stock/memo';
import { beginsAgain, secondAt } from '../../stock/played';
import { beginsAt } from '../beginsAt';
import { trimDials } from '../trim';
import { performer } from '../define';
import { placed, placeDials, thickened, who, whoOf } from './place';

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
    who,
    start: beginsAt('Frame at which it begins to move.'),
    speed: number('Speed', 1, [-20, 20], 'How fast it goes; below 0 backwards.', {
      varies: 'never',
    }),
    tall: number(
      'Height',
      1.75,
      [0, 1000],
      'Of the first of them at the tallest; 0 is as in the file.',
      {
        varies: 'never',
        unit: 'm',
        group: 'Place',
      },
    ),
    ...placeDials,
    floor: choice(
      'Floor',
      'lowest',
      { lowest: 'Lowest point', file: 'As in the file' },
      'What stands on the floor of the place: the lowest that any of them comes, or 0 of the file.',
      { group: 'Place' },
    ),
    ...trimDials,
  },
  plays: 'motion',
  strip: { start: 'start', trim: ['from', 'to'], speed: 'speed' },
  performing(dials, { rate, stock }) {
    const motion = stock(dials.motion);
    if (motion?.type !== 'motion') return undefined;
    const cast = whoOf(motion, dials.who);
    if (!cast) return undefined;
    const { tall, floor } = extentOf(motion, dials.up);
    const scale = dials.tall > 0 && tall > 0 ? dials.tall / tall : 1;
    const { speed, from, to, ends } = dials;
    const playing = { start: dials.start / rate, speed, from, to, ends };
    const place = placed(dials, scale, dials.floor === 'lowest' ? floor : 0);
    const at = (time: number): Float32Array =>
      place(posesAt(motion, cast.people, secondAt(motion, playing, time)));
    const bones = thickened(bonesOf(motion, cast.who, scale, tall * scale), cast.joints, dials);
    return {
      joints: cast.joints,
      bones,
      at,
      name: `motion.${String(serialOf(motion))}.${JSON.stringify([rate, dials])}`,
      leaps: (before, after) => beginsAgain(motion, playing, before, after),
    };
  },
});
