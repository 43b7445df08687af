import { choice, number } from '../../language/dials';

const group = 'On touch';
const solid = { group, when: { dial: 'acts', is: ['solid'] } };
const zone = { group, when: { dial: 'acts', is: ['zone'] } };

/** Dials of every collider: what it does to what touches it, or is in it. */
export const touchDials = {
  acts: choice('Acts as', 'solid', { solid: 'Something solid', zone: 'A zone' }, 'What it is.', {
    group,
  }),
  side: choice(
    'Particles',
    'outside',
    { outside: 'Outside', inside: 'Inside' },
    'A solid keeps them on that side; a zone acts on them there.',
    { group },
  ),
  touch: choice(
    'Does',
    'bounce',
    { bounce: 'Bounce', slide: 'Slide', stick: 'Stick', die: 'Die' },
    'What happens at the surface.',
    solid,
  ),
  bounce: number('Bounce', 0.4, [0, 1], 'Part of the speed that comes back.', {
    group,
    when: { dial: 'touch', is: ['bounce'] },
  }),
  friction: number('Friction', 0.1, [0, 1], 'Part of the speed along the surface that is lost.', {
    group,
    when: { dial: 'touch', is: ['bounce', 'slide'] },
  }),
  roughness: number('Roughness', 0, [0, 1], 'How far the surface turns them at random.', {
    group,
    when: { dial: 'touch', is: ['bounce'] },
  }),
  gap: number('Gap', 0, [0, 10], 'Distance that is kept from the surface.', {
    unit: 'm',
    ...solid,
  }),
  does: choice(
    'In the zone',
    'slow',
    { die: 'Particles die', slow: 'They slow down', push: 'They are pushed out' },
    'What happens inside the zone, or outside it.',
    zone,
  ),
  strength: number('Strength', 4, [-1000, 1000], 'Of slowing (1/s) or pushing (m/s²).', zone),
  soft: number('Soft edge', 0.2, [0, 100], 'Over this depth it comes to its strength.', {
    unit: 'm',
    ...zone,
  }),
};
