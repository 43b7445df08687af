import { z } from '../zod';
import { shapeSchema } from './shape';

/** Channels of a map: linear light, opacity, or colour. */
export const MAP_CHANNELS = [
  'brightness',
  'red',
  'green',
  'blue',
  'alpha',
  'hue',
  'saturation',
] as const;
export type MapChannel = (typeof MAP_CHANNELS)[number];

const metres = z.number().min(-1000).max(1000);

/** Where a map lies in space, as seen from the front where nothing is turned. */
export const mapPlaneSchema = z.strictObject({
  centre: z.tuple([metres, metres, metres]),
  /** Degrees about x, then y. */
  turn: z.tuple([z.number().min(-36000).max(36000), z.number().min(-36000).max(36000)]),
  width: z.number().min(0.001).max(10_000),
  height: z.number().min(0.001).max(10_000),
});
export type MapPlane = z.infer<typeof mapPlaneSchema>;

/** Dials of a map: its source, and the place that is looked up in it. */
const lookup = {
  feed: z.literal('map'),
  /** A picture of the stock or a moving picture of the piece, by id; `colour`: the colour of the place of birth. */
  source: z.enum(['picture', 'colour']).optional(),
  picture: z.string().max(64).optional(),
  /**
   * Along and around what the particle was born on (the default), by its place on a plane, or on the screen: for
   * looks, where there is a screen; anything else finds the middle.
   */
  by: z.enum(['surface', 'plane', 'screen']).optional(),
  plane: mapPlaneSchema.optional(),
  /** How often the picture stands along and around; 1 if nothing is said. */
  repeat: z.tuple([z.number().min(0.01).max(1000), z.number().min(0.01).max(1000)]).optional(),
  /** Beyond the picture: again (the default), mirrored, or as at its edge. */
  edge: z.enum(['again', 'mirrored', 'edge']).optional(),
  /** Live (the default) looks it up at every frame; at birth each particle keeps what it finds. */
  evaluate: z.enum(['birth', 'live']).optional(),
};

/** A number looked up in a picture: `low` of the channel gives `from`, `high` gives `to`, straight between. */
export const mapSchema = z.strictObject({
  ...lookup,
  channel: z.enum(MAP_CHANNELS).optional(),
  low: z.number().min(0).max(1).optional(),
  high: z.number().min(0).max(1).optional(),
  from: z.number(),
  to: z.number(),
  over: shapeSchema.optional(),
});
export type MapFeed = z.infer<typeof mapSchema>;

/** A colour looked up in a picture, times a light. */
export const colourMapSchema = z.strictObject({
  ...lookup,
  light: z.number().min(0).max(100).optional(),
});
export type ColourMapFeed = z.infer<typeof colourMapSchema>;

/** The plane of a map that says none: that of other things on planes. */
export const MAP_PLANE: MapPlane = { centre: [0, 0, 0], turn: [0, 0], width: 4, height: 2.25 };
