import { z } from '../zod';
import { LAYER_MODES } from './blend';
import { stopsSchema } from './gradient';

/** Readings that a layer can go by; other ones are formulas. */
export const LAYER_READINGS = {
  age: 'Age, s',
  lived: 'Part of life lived',
  speed: 'Speed, m/s',
  heading: 'Heading, °',
  pitch: 'Pitch, °',
  index: 'Birth order',
  distance: 'Distance from the middle, m',
  x: 'Place across, m',
  y: 'Height, m',
  z: 'Place in depth, m',
} as const;
export type LayerReading = keyof typeof LAYER_READINGS;

/** Where the value of a layer comes from. */
export const LAYER_SOURCES = {
  life: 'Over life',
  random: 'Random',
  reading: 'A reading',
  formula: 'A formula',
  signal: 'A signal',
  picture: 'A picture',
  place: 'Its place of birth',
  swarm: 'Another swarm',
} as const;

const keys = <T extends string>(of: Record<T, unknown>): [T, ...T[]] =>
  Object.keys(of) as [T, ...T[]];

const layerSchema = z.strictObject({
  by: z.enum(keys(LAYER_SOURCES)),
  /** By a reading: which one, and the values that count as 0 and 1. */
  reading: z.enum(keys(LAYER_READINGS)).optional(),
  from: z.number().min(-1e9).max(1e9).optional(),
  to: z.number().min(-1e9).max(1e9).optional(),
  /** By a formula. */
  text: z.string().max(2000).optional(),
  signal: z.string().max(64).optional(),
  /** By a picture of the stock: its height in metres, upright about the origin, and whether the place now or of birth counts. */
  picture: z.string().max(64).optional(),
  size: z.number().min(0.001).max(10000).optional(),
  at: z.enum(['now', 'birth']).optional(),
  /** Of another swarm: the colour it would have there. */
  swarm: z.string().max(64).optional(),
  over: z.enum(keys(LAYER_MODES)),
  /** How much of the layer is seen, 0 to 1. */
  amount: z.number().min(0).max(1),
  /** Blended as colours: what colours the layer's own values. */
  stops: stopsSchema.optional(),
});
export type ColourLayer = z.infer<typeof layerSchema>;

/** Layers from below to above: blended as greys, which a gradient then colours, or as colours. */
export const layersSchema = z.strictObject({
  feed: z.literal('layers'),
  as: z.enum(['greys', 'colours']),
  layers: z.array(layerSchema).min(1).max(8),
  /** Blended as greys: the gradient of the result. */
  stops: stopsSchema,
});
export type LayersFeed = z.infer<typeof layersSchema>;
