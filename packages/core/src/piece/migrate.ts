import { VERSION } from './types';

type Migration = (piece: object) => object;
type Dials = Record<string, unknown>;

/** A piece with each thing of one of its lists changed; whatever is no list is left alone. */
function withEach(piece: object, list: string, change: (item: object) => object): object {
  const items = (piece as Record<string, unknown>)[list];
  return Array.isArray(items) ? { ...piece, [list]: (items as object[]).map(change) } : piece;
}

/** migrations[n] turns a piece of version n into one of version n + 1. */
const migrations: Record<number, Migration> = {
  /** Version 2 has signals, colliders, stock and copies. */
  1: (piece) => ({
    ...withEach(piece, 'swarms', (swarm) => ({ ...swarm, copies: [] })),
    colliders: [],
    signals: [],
    stock: [],
  }),
  /** Version 3 has several bodies to a swarm, lights and density. */
  2: (piece) => ({ ...withEach(piece, 'swarms', withBodies), lights: [], density: 1 }),
  /** In version 4 the outline that masks a treatment is a shape of its mask. */
  3: (piece) => withEach(piece, 'finish', withOutlineShape),
  /**
   * In version 5 turbulence is as strong as it says, and a falloff of 0 weakens nothing; what a piece
   * has is turned down by so much. Vector noise is called jostle.
   */
  4: (piece) => withEach(piece, 'forces', withTrueStrength),
  /** In version 6 there are sounds, and births from another swarm are moved and turned as others are; before, their place did nothing. */
  5: (piece) => ({ ...withEach(piece, 'swarms', withoutPlace), sounds: [] }),
  /** In version 7 there are moving pictures; the made one was a picture before. */
  6: (piece) => withMovingPictures(piece as Dials),
  /** In version 8 repeats can differ and run on, formulas read maps, and there are cameras. */
  7: (piece) => piece,
  /** In version 9 there are performers. */
  8: (piece) => ({ ...piece, performers: [] }),
  /** In version 10 there are media. */
  9: (piece) => ({ ...piece, media: [] }),
  /** In version 11 there are controls, cues, and what was played of them. */
  10: (piece) => ({ ...piece, controls: [], cues: [], played: [] }),
  /** In version 12 the frame rate may be a fraction. */
  11: (piece) => piece,
};

/** Moving pictures of the stock become a clip there, and a part that plays it. */
function withMovingPictures(piece: Dials): object {
  const stock = Array.isArray(piece.stock) ? (piece.stock as Dials[]) : [];
  const was = (entry: Dials): boolean =>
    entry.type === 'picture' && (entry.source as Dials | null)?.made === 'wanderingLight';
  const pictures = stock.filter(was).map(({ id, name }) => ({
    id,
    name,
    on: true,
    kind: 'played',
    dials: { clip: `${String(id).slice(0, 59)}Clip` },
  }));
  const clips = withEach(piece, 'stock', (item) => {
    const entry = item as Dials;
    return was(entry)
      ? { ...entry, type: 'clip', id: `${String(entry.id).slice(0, 59)}Clip` }
      : entry;
  });
  return { ...clips, pictures };
}

const PLACE = ['centre', 'turn', 'pivot', 'along', 'progress'];

function withoutPlace(swarm: { emitter?: unknown }): object {
  const emitter = swarm.emitter as { kind?: unknown; dials?: unknown } | null | undefined;
  if (emitter?.kind !== 'swarm' || typeof emitter.dials !== 'object') return swarm;
  const dials = Object.entries(emitter.dials ?? {}).filter(([key]) => !PLACE.includes(key));
  return { ...swarm, emitter: { ...emitter, dials: Object.fromEntries(dials) } };
}

/** The part of its strength that turbulence gave in older files. */
const TURBULENCE_WAS = 0.33143;

function withTrueStrength(part: { kind?: unknown; dials?: unknown }): object {
  if (part.kind === 'vectorNoise') return { ...part, kind: 'jostle' };
  if (typeof part.dials !== 'object' || part.dials === null) return part;
  const dials = part.dials as Dials;
  // What was left out stood at the default of version 4.
  const lessened = (factor: number, defaults: Record<string, number>): object => {
    const now = Object.entries({ ...defaults, ...dials }).filter(([key]) =>
      Object.hasOwn(defaults, key),
    );
    const scaled = now.map(([key, value]) => [key, scaledFeed(value, factor)] as const);
    return { ...part, dials: { ...dials, ...Object.fromEntries(scaled) } };
  };
  if (part.kind === 'turbulence') return lessened(TURBULENCE_WAS, { strength: 4 });
  if (dials.falloff !== 0) return part;
  if (part.kind === 'attraction') return lessened(0.5, { strength: 4 });
  return part.kind === 'vortex' ? lessened(0.5, { spin: 120, pull: 0, lift: 0 }) : part;
}

/** A number, or what fills a dial, times a factor. */
function scaledFeed(feed: unknown, factor: number): unknown {
  const scaled = (v: unknown): unknown => (typeof v === 'number' ? v * factor : v);
  if (typeof feed !== 'object' || feed === null) return scaled(feed);
  const given = feed as Dials;
  const ends = ['value', 'from', 'to'].filter((k) => k in given);
  return {
    ...given,
    ...Object.fromEntries(ends.map((k) => [k, scaled(given[k])])),
    ...('text' in given ? { text: `(${String(given.text)}) * ${String(factor)}` } : {}),
  };
}

function withBodies(swarm: { body?: unknown; own?: unknown }): object {
  const { body, own, ...rest } = swarm;
  if (typeof body !== 'object' || body === null) return swarm;
  const named = { id: 'disc', name: 'Disc', on: true, ...body };
  const owned = Array.isArray(own)
    ? own.map((o) => (o === 'body' ? 'bodies' : (o as unknown)))
    : own;
  return { ...rest, bodies: [named], ...(own === undefined ? {} : { own: owned }) };
}

function withOutlineShape(part: { dials?: unknown }): object {
  if (typeof part.dials !== 'object' || part.dials === null) return part;
  const { maskOutline, ...dials } = part.dials as { maskOutline?: unknown; mask?: unknown };
  if (!maskOutline) return { ...part, dials };
  const shape = { shape: 'outline', outline: maskOutline, x: 0.5, y: 0.5, tall: 1, turn: 0 };
  const drawn: unknown[] = Array.isArray(dials.mask) ? dials.mask : [];
  return { ...part, dials: { ...dials, mask: [...drawn, shape] } };
}

/** Brings an older piece up to the current version, step by step; leaves anything else alone. */
export function migrate(piece: object, steps = migrations, target = VERSION): object {
  let current = piece;
  let version = 'version' in current ? current.version : undefined;
  while (typeof version === 'number' && version < target && steps[version]) {
    current = { ...steps[version]!(current), version: version + 1 };
    version += 1;
  }
  return current;
}
