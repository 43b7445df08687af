import { rangeOf } from '../../feeds/feeds';
import {
  choice,
  isWanted,
  number,
  type ColourDial,
  type DialValues,
  type ValuesOf,
} from '../../language/dials';

/** When particles are born, how long they live and how they look: the same for every swarm. */
export const swarmDials = {
  when: choice(
    'When',
    'both',
    {
      steadily: 'Steadily',
      bursts: 'In bursts',
      both: 'Steadily and in bursts',
      once: 'All places once',
      oneByOne: 'One by one',
    },
    'One by one: each place in turn, until all have had one. Both that count places take them from the emitter.',
    { group: 'Birth' },
  ),
  rate: number('Rate', 2000, [0, 10_000_000], 'Births per second.', {
    unit: '/s',
    group: 'Birth',
    drag: 'log',
    when: { dial: 'when', is: ['steadily', 'both', 'oneByOne'] },
  }),
  burst: number('Burst', 0, [0, 8_000_000], 'Particles born at one moment.', {
    whole: true,
    group: 'Birth',
    when: { dial: 'when', is: ['bursts', 'both'] },
  }),
  burstAt: number('Burst at', 0, [0, 3600], 'The moment of the burst.', {
    unit: 's',
    varies: 'never',
    group: 'Birth',
    when: { dial: 'when', is: ['bursts', 'both'] },
  }),
  burstEvery: number(
    'Burst every',
    0,
    [0, 3600],
    'Seconds from burst to burst, 0.001 at the least; 0 is once.',
    {
      unit: 's',
      varies: 'never',
      group: 'Birth',
      when: { dial: 'when', is: ['bursts', 'both'] },
    },
  ),
  start: number(
    'Start',
    0,
    [0, 3600],
    'When births begin; 0 is the very beginning, pre-roll too.',
    {
      unit: 's',
      varies: 'never',
      group: 'Birth',
      when: { dial: 'when', not: 'bursts' },
    },
  ),
  end: number('End', 3600, [0, 3600], 'When births end.', {
    unit: 's',
    varies: 'never',
    group: 'Birth',
    when: { dial: 'when', is: ['steadily', 'both'] },
  }),
  loop: number(
    'Loop',
    0,
    [0, 3600],
    'Births start over after this time, 0.001 s at the least; 0 never.',
    {
      unit: 's',
      varies: 'never',
      group: 'Birth',
    },
  ),
  lasts: choice(
    'How long',
    'time',
    { time: 'A time', ever: 'For ever' },
    'What lives for ever stays at the beginning of every shape over life.',
    { group: 'Birth' },
  ),
  lifetime: number(
    'Lifetime',
    { feed: 'spread', from: 2, to: 5 },
    [0.01, 3600],
    'How long a particle lives.',
    {
      unit: 's',
      varies: 'birth',
      group: 'Birth',
      drag: 'log',
      when: { dial: 'lasts', is: ['time'] },
    },
  ),
  limit: number('Limit', 0, [0, 8_000_000], 'Most particles alive at once; 0 is as many as born.', {
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
  stirs: number('Stirs media', 1, [0, 1000], 'Multiplies what it gives to media.', {
    varies: 'life',
    group: 'Motion',
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

/** Values of a swarm's dials. */
export type SwarmValues = ValuesOf<typeof swarmDials> & DialValues;

/** Seconds that stand for a life without end: thirty years. */
export const FOR_EVER = 1e9;

/** The longest that a particle of the swarm lives, in seconds. */
export function longestLife({ lasts, lifetime }: SwarmValues): number {
  return lasts === 'ever' ? FOR_EVER : rangeOf(lifetime)[1];
}

/** The dials of births that count: 0 for those of another way of birth. */
export function birthsIn(dials: SwarmValues): Pick<SwarmValues, 'rate' | 'burst'> {
  const counts = (key: 'rate' | 'burst'): boolean => isWanted(swarmDials[key], dials);
  return { rate: counts('rate') ? dials.rate : 0, burst: counts('burst') ? dials.burst : 0 };
}

/** Whether each birth takes the next of the emitter's places, until each has had one. */
export function takesEachPlace({ when }: SwarmValues): boolean {
  return when === 'once' || when === 'oneByOne';
}
