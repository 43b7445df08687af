import { LAYER_MODES } from '../../feeds/blend';
import { choice, number, pictureDial, swarmDial, vector } from '../../language/dials';
import type { ColourDial } from '../../language/dials';
import { seenDials } from './seen';

const flow = { group: 'Flow' };
const place = { group: 'Place' };
const onPlane = { ...place, when: { dial: 'fills', is: ['plane'] } };
const swarms = { group: 'Stirred by swarms' };
const picture = { group: 'Stirred by a picture' };
const hand = { group: 'Stirred by hand' };
const shown = { group: 'Shown' };
const seen = { ...shown, when: { dial: 'shown', not: 'no' } };

/** Dials of a medium: how it flows, where it is, what stirs it and how it is seen. */
export const fluidDials = {
  swirl: number('Swirl', 3, [0, 100], 'Keeps small eddies turning that cells would smooth out.', {
    ...flow,
    unit: '1/s',
  }),
  slowing: number('Slowing', 0.2, [0, 100], 'How soon it comes to rest by itself.', {
    ...flow,
    unit: '1/s',
  }),
  thickness: number(
    'Thickness',
    0,
    [0, 10],
    'How soon neighbours take on one speed: its viscosity.',
    { ...flow, unit: 'm²/s', drag: 'log' },
  ),
  fading: number('Fading', 0.4, [0, 100], 'How soon its light and its amount are gone.', {
    ...flow,
    unit: '1/s',
  }),
  spreading: number(
    'Spreading',
    0,
    [0, 10],
    'How soon light and amount spread into what is around.',
    { ...flow, unit: 'm²/s', drag: 'log' },
  ),
  fills: choice(
    'Lies',
    'frame',
    { frame: 'Over the frame', plane: 'On a plane' },
    'Over the frame it goes along with the camera, where that looks at.',
    place,
  ),
  lines: number('Lines', 216, [64, 1080], 'Cells from its lower to its upper edge.', {
    ...place,
    whole: true,
  }),
  edges: choice(
    'Edges',
    'open',
    { closed: 'Closed', open: 'Open', wrap: 'Go round' },
    'What flows against them stops, leaves, or comes in at the other side.',
    place,
  ),
  reach: number('Reach', 1000, [0.001, 1000], 'How far before and behind it things count.', {
    ...place,
    unit: 'm',
    drag: 'log',
  }),
  centre: vector('Centre', [0, 0, 0], 1000, 'm', 'Middle of the plane.', {
    ...onPlane,
    grasp: 'place',
  }),
  turn: vector('Turn', [0, 0, 0], 36000, '°', 'About x, then y, then z; 0 faces the front.', {
    ...onPlane,
    grasp: 'turn',
  }),
  width: number('Width', 8, [0.01, 10_000], 'From its left to its right edge.', {
    ...onPlane,
    unit: 'm',
    drag: 'log',
  }),
  aspect: number('Aspect', 16 / 9, [0.1, 10], 'Width against height.', {
    ...onPlane,
    varies: 'never',
    drag: 'log',
  }),
  swarm: swarmDial('Whose particles stir it.', { ...swarms, none: 'All swarms' }),
  stir: number('Stir', 10, [0, 1000], 'How soon it moves as a particle does that is there.', {
    ...swarms,
    unit: '1/s',
    drag: 'log',
  }),
  tint: number(
    'Tint',
    2,
    [0, 1000],
    'How soon it takes on the light of a particle that is there.',
    {
      ...swarms,
      unit: '1/s',
      drag: 'log',
    },
  ),
  give: number('Amount', 1, [0, 1000], 'How soon its amount goes to 1 where a particle is.', {
    ...swarms,
    unit: '1/s',
    drag: 'log',
  }),
  radius: number('Radius', 0.15, [0.001, 100], 'How far round a particle.', {
    ...swarms,
    unit: 'm',
    drag: 'log',
  }),
  picture: pictureDial('Picture', 'A picture, clip or made map, laid over it.', picture),
  pictureTint: number(
    'Light of it',
    1,
    [0, 1000],
    'Light that the picture gives; dark gives none.',
    {
      ...picture,
      unit: '1/s',
      drag: 'log',
    },
  ),
  pictureStir: number(
    'Motion of it',
    5,
    [0, 1000],
    'How soon it moves as the picture is seen to.',
    {
      ...picture,
      unit: '1/s',
      drag: 'log',
    },
  ),
  hand: number(
    'Hand',
    0,
    [0, 1],
    'Whether a hand stirs it: fed by a signal, that of a key or of the pointer.',
    hand,
  ),
  handX: number(
    'Hand across',
    0,
    [-1, 1],
    'Where it is: -1 is the left edge, 1 the right one.',
    hand,
  ),
  handY: number('Hand up', 0, [-1, 1], 'Where it is: -1 is the lower edge, 1 the upper one.', hand),
  handSize: number('Hand size', 0.4, [0.001, 100], 'How far it is felt.', {
    ...hand,
    unit: 'm',
    drag: 'log',
  }),
  handColour: {
    type: 'colour',
    title: 'Hand colour',
    help: 'Of the light that it gives.',
    group: hand.group,
    default: '#ffd9a0',
    varies: 'frame',
  } as ColourDial<'frame'>,
  handTint: number('Hand light', 3, [0, 1000], 'Light that it gives where it is.', {
    ...hand,
    unit: '1/s',
    drag: 'log',
  }),
  shown: choice(
    'Shown',
    'behind',
    {
      behind: 'Behind all swarms',
      before: 'Before all swarms',
      no: 'Only where something asks for it',
    },
    'A medium layer in the finish, a map or a displacement can ask for it as well.',
    shown,
  ),
  by: { ...seenDials.by, ...seen },
  full: { ...seenDials.full, ...shown },
  colour: { ...seenDials.colour, ...shown },
  light: { ...seenDials.light, ...seen },
  over: { ...choice('Lies over', 'add', LAYER_MODES, 'How it meets what is below it.'), ...seen },
};
