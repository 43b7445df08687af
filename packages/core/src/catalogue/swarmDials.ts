import { choice, number, type ColourDial, type DialValues, type ValuesOf } from '../language/dials';

/** When particles are born, how long they live and how they look: the same for every swarm. */
export const swarmDials = {
  rate: number('Rate', 2000, [0, 10_000_000], 'Births per second.', {
    unit: '/s',
    group: 'Birth',
    drag: 'log',
  }),
  start: number(
    'Start',
    0,
    [0, 3600],
    'When births begin; 0 is the very beginning, pre-roll too.',
    {
      unit: 's',
      varies: 'never',
      group: 'Birth',
    },
  ),
  end: number('End', 3600, [0, 3600], 'When births end.', {
    unit: 's',
    varies: 'never',
    group: 'Birth',
  }),
  burst: number('Burst', 0, [0, 4_000_000], 'Particles born at one moment.', {
    whole: true,
    group: 'Birth',
  }),
  burstAt: number('Burst at', 0, [0, 3600], 'The moment of the burst.', {
    unit: 's',
    varies: 'never',
    group: 'Birth',
    when: { dial: 'burst', not: 0 },
  }),
  burstEvery: number('Burst every', 0, [0, 3600], 'Seconds from burst to burst; 0 is once.', {
    unit: 's',
    varies: 'never',
    group: 'Birth',
    when: { dial: 'burst', not: 0 },
  }),
  loop: number('Loop', 0, [0, 3600], 'Births start over after this time; 0 never.', {
    unit: 's',
    varies: 'never',
    group: 'Birth',
  }),
  lifetime: number(
    'Lifetime',
    { feed: 'spread', from: 2, to: 5 },
    [0.01, 3600],
    'How long a particle lives.',
    { unit: 's', varies: 'birth', group: 'Birth', drag: 'log' },
  ),
  limit: number('Limit', 0, [0, 4_000_000], 'Most particles alive at once; 0 is as many as born.', {
    whole: true,
    group: 'Birth',
  }),
  mass: number('Mass', 1, [0.001, 1000], 'Heavy particles answer less to pushes.', {
    varies: 'birth',
    group: 'Motion',
    drag: 'log',
  }),
  resistance: number('Resistance', 1, [0, 1000], 'Multiplies the drag that it feels.', {
    varies: 'birth',
    group: 'Motion',
    drag: 'log',
  }),
  size: number('Size', 0.04, [0, 100], 'Diameter.', {
    unit: 'm',
    varies: 'life',
    group: 'Look',
    drag: 'log',
  }),
  opacity: number('Opacity', 1, [0, 1], 'How much it covers or adds.', {
    varies: 'life',
    group: 'Look',
  }),
  colour: {
    type: 'colour',
    title: 'Colour',
    help: 'A colour, or a gradient over life or at random.',
    group: 'Look',
    default: '#7fd6c8',
    varies: 'life',
  } as ColourDial,
  light: number('Light', 1, [0, 1000], 'Multiplies the colour; over 1 it glows.', {
    varies: 'life',
    group: 'Look',
    drag: 'log',
  }),
  pinned: choice(
    'Stands',
    'world',
    { world: 'In the scene', camera: 'With the camera' },
    'With the camera it travels along, as if the camera stood at its home.',
    { group: 'Look' },
  ),
};

/** What a piece has for them. */
export type SwarmValues = ValuesOf<typeof swarmDials> & DialValues;
