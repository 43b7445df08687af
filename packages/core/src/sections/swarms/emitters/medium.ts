import { hash, random } from '@vast-swarm/kernel';
import { number, partDial } from '../../../language/dials';
import { MediumReader } from '../../../language/mediumSample';
import { emitter } from '../../define';
import { NOTHING_CHOSEN } from './nothingChosen';
import { nowhere } from './mesh';

/** Places that a birth tries before it is given up. */
const TRIES = 16;

export const medium = emitter({
  kind: 'medium',
  title: 'Medium',
  help: 'Wherever there is something in a medium: the more of it, the more are born there.',
  icon: 'M3 15c3-3 6 3 9 0s6 3 9 0M6 8h.01M11 6h.01M16 9h.01M9 11h.01',
  dials: {
    medium: partDial('Medium', 'media', 'What they are born of.'),
    full: number('Full at', 1, [1e-4, 1e5], 'The amount at which every place is taken.', {
      drag: 'log',
    }),
    takes: number('Takes along', 0.5, [-10, 10], 'The part of its velocity that they start with.'),
  },
  whyNoBirths: ({ medium }, piece) => {
    if (medium === '') return NOTHING_CHOSEN;
    const of = piece.medium(medium);
    return of?.on === false ? `It is born of ${of.name}, which is switched off.` : null;
  },
  build(dial) {
    const g = dial.graph;
    const space = dial.medium('medium');
    if (!space) return nowhere(dial);
    const reader = new MediumReader(dial.builder, space);
    const { columns, lines } = space;
    const full = dial.number('full');
    const { id } = dial.particle!;
    const keys = [dial.seed('x'), dial.seed('y'), dial.seed('taken')];
    const zero = g.float(0);
    const [x, y, found] = g.loopWhile(g.int(TRIES), [zero, zero, zero], (turn) => {
      const chance = (i: number) => random(id, keys[i]!.xor(hash(turn)));
      const spot = {
        x: chance(0).mul(columns).add(0.5),
        y: chance(1).mul(lines).add(0.5),
      };
      const taken = chance(2).mul(full).lt(reader.content(spot).amount);
      return { next: [spot.x, spot.y, taken.select(1, zero)], goOn: taken.not() };
    });
    const spot = { x: x!, y: y! };
    const { right, up } = reader.plane;
    return {
      position: reader.plane.placeOf(spot),
      normal: right.cross(up),
      tangent: right,
      surface: [
        spot.x.sub(0.5).mul(1 / columns),
        g
          .float(lines + 0.5)
          .sub(spot.y)
          .mul(1 / lines),
      ],
      colour: reader.light(spot),
      velocity: reader.plane.world(reader.velocity(spot)).scale(dial.number('takes')),
      there: found!.gt(0.5),
    };
  },
});
