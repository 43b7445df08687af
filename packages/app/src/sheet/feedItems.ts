import {
  isChannels,
  isColourMap,
  isFixed,
  isMap,
  isFormula,
  isGradient,
  isLayers,
  isPlaceColour,
  isSignal,
  isSpread,
  overOf,
  rangeOf,
  type ColourFeed,
  type DialValue,
  type MapFeed,
  type NumberFeed,
  type Shape,
} from '@vast-swarm/core/feeds';
import type { NumberDial } from '@vast-swarm/core/kinds';

/** The dial whose feeds are chosen: a number, or a part of a vector. */
export type FedSpec = Pick<NumberDial, 'min' | 'max' | 'varies'> & { type: 'number' };

/** A signal, or a part of one. */
interface Named {
  id: string;
  name: string;
}

/** The map that a dial is first looked up in. */
type Lookup = Pick<MapFeed, 'picture'>;

/** A way to fill a dial. */
export interface FeedItem {
  title: string;
  help: string;
  chosen: boolean;
  make: () => DialValue;
}

const FADE: Shape = [
  { x: 0, y: 0 },
  { x: 0.2, y: 1 },
  { x: 1, y: 0 },
];

/** Number feeds with or without parts of the present one. */
export function numberItems(
  spec: FedSpec,
  value: NumberFeed,
  signals: readonly Named[],
  lookup: Lookup = {},
): FeedItem[][] {
  const [from, to] = rangeOf(value);
  const middle = from === to ? from : (from + to) / 2;
  const over = overOf(value);
  const shape = over ? { over } : {};
  const spread = isSpread(value) ? value : null;
  const within = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
  const apart =
    from === to ? [within(middle * 0.5), within(middle === 0 ? 1 : middle * 1.5)] : [from, to];
  const ends = { from: apart[0]!, to: apart[1]! };
  const particle = spec.varies !== 'frame';
  const make = (distribution: 'uniform' | 'normal') => (): DialValue => ({
    feed: 'spread',
    ...ends,
    distribution,
    ...(spread?.evaluate ? { evaluate: spread.evaluate } : {}),
    ...shape,
  });
  const base: FeedItem[] = [
    {
      title: 'Fixed',
      help: particle ? 'The same for every particle' : 'Always the same',
      chosen: typeof value === 'number' || isFixed(value),
      make: () => (over ? { feed: 'fixed', value: middle, over } : middle),
    },
  ];
  if (particle) {
    base.push(
      {
        title: 'Spread, even',
        help: 'Anything between two values',
        chosen: spread !== null && spread.distribution !== 'normal',
        make: make('uniform'),
      },
      {
        title: 'Spread, normal',
        help: 'Mostly near the middle',
        chosen: spread?.distribution === 'normal',
        make: make('normal'),
      },
    );
  }
  base.push({
    title: 'Formula',
    help: particle ? 'Of time and the particle’s readings' : 'Of time, frame and seed',
    chosen: isFormula(value),
    make: () => ({
      feed: 'formula',
      text: startText(middle),
      ...formulaEnds(spec, ends),
      ...shape,
    }),
  });
  if (particle) {
    base.push({
      title: 'Map',
      help: 'Looked up in a picture, a clip or a made map',
      chosen: typeof value === 'object' && isMap(value),
      make: () => ({ feed: 'map', ...lookup, ...ends, ...shape }),
    });
  }
  const driven: FeedItem[] = signals.map((s) => ({
    title: `Signal: ${s.name}`,
    help: 'Follows it from one value to another',
    chosen: isSignal(value) && value.signal === s.id,
    make: () => ({ feed: 'signal', signal: s.id, ...ends, ...shape }),
  }));
  const groups = [base, driven].filter((g) => g.length > 0);
  const read = isSignal(value) || isFormula(value) || isMap(value);
  const when = isSpread(value) || read ? value : null;
  if (when && spec.varies === 'life') {
    const now = when.evaluate ?? (isSpread(value) ? 'birth' : 'live');
    groups.push(whenItems(now, (evaluate) => ({ ...when, evaluate })));
  }
  if (spec.varies === 'life') groups.push([shapedItem(value, middle)]);
  return groups;
}

/** A formula that gives about what the dial had. */
function startText(value: number): string {
  return `${String(Number(value.toPrecision(4)))} * (1 + 0.3 * sin(time * 2))`;
}

function formulaEnds(spec: FedSpec, ends: { from: number; to: number }) {
  const wide = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
  const reach = Math.max(Math.abs(ends.from), Math.abs(ends.to), 0.1) * 4;
  return { from: wide(-reach), to: wide(reach) };
}

function shapedItem(value: NumberFeed, middle: number): FeedItem {
  const over = overOf(value);
  return {
    title: 'Shaped over life',
    help: 'Multiplied by a curve from birth to death',
    chosen: over !== undefined,
    make: () => {
      if (typeof value === 'number') return { feed: 'fixed', value: middle, over: FADE };
      if (!over) return { ...value, over: FADE };
      if (value.feed === 'fixed') return value.value;
      const rest = { ...value };
      delete rest.over;
      return rest;
    },
  };
}

function whenItems(now: 'birth' | 'live', make: (when: 'birth' | 'live') => DialValue): FeedItem[] {
  return [
    {
      title: 'Read at birth',
      help: 'Each particle keeps it',
      chosen: now === 'birth',
      make: () => make('birth'),
    },
    {
      title: 'Read live',
      help: 'Read again at every frame',
      chosen: now === 'live',
      make: () => make('live'),
    },
  ];
}

/** Three signals as red, green and blue: the first three parts of the signal that has them, else what there is. */
function channelsItem(value: ColourFeed, signals: readonly Named[]): FeedItem {
  const third = signals.find(({ id }) => id.endsWith('.3'));
  const from = third ? signals.findIndex(({ id }) => id === third.id) - 2 : 0;
  const channel = (i: number) => ({
    signal: (signals[from + i] ?? signals[0]!).id,
    from: 0.05,
    to: 2,
  });
  return {
    title: 'Red, green and blue by signals',
    help: 'As three bands of a sound',
    chosen: isChannels(value),
    make: () => ({
      feed: 'channels',
      red: channel(0),
      green: channel(1),
      blue: channel(2),
      evaluate: 'birth',
    }),
  };
}

/** Colour feeds with or without parts of the present one. */
export function colourItems(
  value: ColourFeed,
  signals: readonly Named[],
  lookup: Lookup = {},
): FeedItem[][] {
  const gradient = isGradient(value) ? value : null;
  const layered = isLayers(value) ? value.stops : null;
  const colour =
    (gradient?.stops ?? layered)
      ? (gradient?.stops ?? layered)![0]!.colour
      : typeof value === 'string'
        ? value
        : '#ffffff';
  const stops = gradient?.stops ??
    layered ?? [
      { at: 0, colour },
      { at: 1, colour: '#27408b' },
    ];
  const by = (name: 'life' | 'random' | 'formula', title: string, help: string): FeedItem => ({
    title,
    help,
    chosen: gradient !== null && (gradient.by ?? 'life') === name,
    make: () => ({
      feed: 'gradient',
      by: name,
      stops,
      ...(name === 'formula' ? { text: 'speed / 3' } : {}),
    }),
  });
  const groups = [
    [
      {
        title: 'One colour',
        help: 'The same for every particle',
        chosen: typeof value === 'string',
        make: () => colour,
      },
      by('life', 'Gradient over life', 'From birth to death'),
      by('random', 'Random from gradient', 'Each particle picks one'),
      by('formula', 'Gradient by a formula', 'Of speed, age, place and other readings'),
      {
        title: 'From the place of birth',
        help: 'Of the picture, mesh or points',
        chosen: isPlaceColour(value),
        make: (): DialValue => ({ feed: 'place' }),
      },
      {
        title: 'Map',
        help: 'Looked up in a picture, a clip or a made map',
        chosen: isColourMap(value),
        make: (): DialValue => ({ feed: 'map', ...lookup }),
      },
      {
        title: 'Layers',
        help: 'Readings, chance, pictures and swarms over one another',
        chosen: isLayers(value),
        make: (): DialValue => ({
          feed: 'layers',
          as: 'greys',
          layers: [
            { by: 'life', over: 'normal', amount: 1 },
            { by: 'random', over: 'overlay', amount: 0.4 },
          ],
          stops,
        }),
      },
    ],
    signals.length > 0 ? [channelsItem(value, signals)] : [],
    signals.map((s): FeedItem => ({
      title: `Gradient by signal: ${s.name}`,
      help: 'All particles change together',
      chosen: gradient?.by === 'signal' && gradient.signal === s.id,
      make: () => ({ feed: 'gradient', by: 'signal', signal: s.id, stops }),
    })),
  ].filter((g) => g.length > 0);
  if (isChannels(value)) {
    groups.push(whenItems(value.evaluate ?? 'live', (evaluate) => ({ ...value, evaluate })));
  }
  if (isColourMap(value)) {
    groups.push(whenItems(value.evaluate ?? 'live', (evaluate) => ({ ...value, evaluate })));
  }
  if (gradient) {
    const now = gradient.evaluate ?? (gradient.by === 'random' ? 'birth' : 'live');
    groups.push(whenItems(now, (evaluate) => ({ ...gradient, evaluate })));
  }
  return groups;
}
