import { number } from '../../language/dials';

/** Dials of a light that casts shadows. */
export const shadowDials = {
  shadow: number('Shadow', 0, [0, 1], 'How dark mesh copies make the floor.'),
  floor: number('Floor', -1, [-1000, 1000], 'Height of the floor that shadows fall on.', {
    unit: 'm',
    when: { dial: 'shadow', not: 0 },
  }),
  blur: number('Shadow blur', 0.02, [0, 0.3], 'As a part of the frame height.', {
    when: { dial: 'shadow', not: 0 },
  }),
};
