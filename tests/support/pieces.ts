import {
  catalogue,
  kindOf,
  type Chance,
  type Dials,
  type DialValues,
} from '@vast-swarm/core/kinds';
import { madeType, made, type Mesh } from '@vast-swarm/core/stock';
import {
  makeChoice,
  makePart,
  makePiece,
  makeSwarm,
  type Part,
  type Piece,
  type Swarm,
} from '@vast-swarm/core/piece';
import { MADE } from '@vast-swarm/core/demo';

/** A small piece with something of everything; quick to simulate and with light in its frame. */
export function smallPiece(change: (piece: Piece) => void = () => undefined): Piece {
  const piece = makePiece('Small');
  piece.frame = { width: 128, height: 72, rate: 30, length: 90, preroll: 0, loop: false };
  const swarm = makeSwarm('sphere', []);
  swarm.id = 'motes';
  swarm.name = 'Motes';
  Object.assign(swarm.dials, {
    rate: 900,
    lifetime: { feed: 'spread', from: 1, to: 3 },
    size: { feed: 'spread', from: 0.05, to: 0.2, distribution: 'normal' },
    colour: {
      feed: 'gradient',
      stops: [
        { at: 0, colour: '#ffb45c', light: 3 },
        { at: 1, colour: '#1f8fb0' },
      ],
    },
  });
  piece.swarms.push(swarm);
  piece.forces.push(makePart('forces', 'curlNoise', []));
  piece.stock = MADE.map((name) => ({
    id: name,
    name,
    type: madeType(name)!,
    source: { made: name },
  }));
  change(piece);
  return piece;
}

/** Adds a swarm `tail` that follows the piece's first, and has a rate of its own. */
export function addFollower(piece: Piece): Swarm {
  const [leader] = piece.swarms;
  const { id } = leader!;
  const tail = { ...structuredClone(leader!), id: 'tail', name: 'Tail', follows: id };
  piece.swarms.push({ ...tail, own: ['rate'] });
  return piece.swarms.at(-1)!;
}

/** Of meshes, which are chosen by it; making the rest takes seconds. */
function sizeOf(name: (typeof MADE)[number]): number {
  return madeType(name) === 'mesh' ? (made(name) as Mesh).triangles.length : 0;
}

/** Fills what a kind leaves empty: things of the stock, another swarm, strokes. */
export function filled(dials: Dials, values: DialValues): void {
  for (const [key, spec] of Object.entries(dials)) {
    // A mask is a matter of its own.
    if (spec.type === 'stock' && key !== 'maskPicture') {
      values[key] = MADE.filter((name) => spec.accepts.includes(madeType(name)!)).sort(
        (a, b) => sizeOf(a) - sizeOf(b),
      )[0]!;
    }
    if (spec.type === 'stocks') {
      values[key] = MADE.filter((name) => spec.accepts.includes(madeType(name)!)).slice(0, 2);
    }
    if (spec.type === 'swarm') values[key] = 'parents';
    if (spec.type === 'part' && spec.of === 'performers') values[key] = 'dancers';
    if (spec.type === 'part' && spec.of === 'media') values[key] = 'water';
    if (spec.type === 'joints' && spec.most === 1) values[key] = ['Ada left hand'];
    if (spec.type === 'strokes') {
      values[key] = [{ points: [0.1, 0.2, 0.8, 0.6], radius: 0.4, strength: 1 }];
    }
  }
}

const ELLIPSE = { shape: 'ellipse', x: 0.4, y: 0.5, wide: 0.3, high: 0.2, turn: 20 } as const;
const MARK = {
  ...({ shape: 'outline', outline: 'harbourMark', x: 0.25, y: 0.3, tall: 0.5, turn: -15 } as const),
};
const TRIANGLE = { shape: 'polygon' as const, points: [0.6, 0.2, 0.9, 0.4, 0.7, 0.9] };

/** Ids of parts that signals name. */
const NAMED: Readonly<Record<string, string>> = {
  sounds: 'heard',
  signals: 'source',
  performers: 'dancers',
  media: 'water',
};

/** One piece for each kind in the catalogue, so that a new kind is tested by being there. */
export function pieceOfEveryKind(): [string, Piece][] {
  /** Two who dance. */
  const dance = (p: Piece, kind = 'played'): void => {
    p.performers = [{ ...makePart('performers', kind, []), id: 'dancers' }];
    p.performers[0]!.dials[kindOf('performers', kind).plays] = 'pierDancers';
  };
  /** A medium that the swarm stirs, with something to flow round. */
  const water = (p: Piece): void => {
    p.media = [{ ...makePart('media', 'fluid', []), id: 'water' }];
    Object.assign(p.media[0]!.dials, { lines: 64, stir: 40, tint: 20, give: 20, radius: 0.2 });
  };
  /** Gives a signal what it hears, or hangs on: a wave that comes with it. */
  const named = (p: Piece, { dials, kind }: Part): void => {
    for (const [key, spec] of Object.entries(kindOf('signals', kind).dials)) {
      if (spec.type !== 'part') continue;
      dials[key] = NAMED[spec.of]!;
      const wave = { ...makePart('signals', 'wave', []), id: 'source' };
      Object.assign(wave.dials, { period: 0.31, phase: 0.1 });
      if (spec.of === 'signals' && p.signals.length === 1) p.signals.push(wave);
    }
  };
  /** A moving picture of a kind; gives its id. */
  const moving = (p: Piece, kind: string): string => {
    p.pictures = [makePart('pictures', kind, [])];
    const own = kindOf('pictures', kind).dials;
    filled(own, p.pictures[0]!.dials);
    return p.pictures[0]!.id;
  };
  const pieces: [string, Piece][] = [];
  const add = (name: string, change: (piece: Piece) => void): void => {
    const piece = smallPiece(change);
    const text = JSON.stringify(piece);
    if (text.includes('"dancers"') && piece.performers.length === 0) dance(piece);
    if (text.includes('"water"') && piece.media.length === 0) water(piece);
    pieces.push([name, piece]);
  };
  for (const { kind, dials } of catalogue.emitters) {
    add(`emitter ${kind}`, (p) => {
      const swarm = p.swarms[0]!;
      swarm.emitter = makeChoice('emitters', kind);
      filled(dials, swarm.emitter.dials);
      if (kind !== 'swarm' && kind !== 'medium') return;
      p.swarms.unshift({ ...structuredClone(makeSwarm('sphere', [])), id: 'parents' });
    });
  }
  for (const { kind } of catalogue.launches) {
    add(`launch ${kind}`, (p) => {
      p.swarms[0]!.launch = makeChoice('launches', kind);
      if (kind === 'byClip') p.swarms[0]!.launch.dials.clip = moving(p, 'played');
    });
  }
  for (const { kind, dials } of catalogue.forces) {
    add(`force ${kind}`, (p) => {
      p.forces = [makePart('forces', kind, [])];
      filled(dials, p.forces[0]!.dials);
      if ('swarm' in dials) p.forces[0]!.dials.swarm = 'motes';
      if (kind === 'clipFlow') p.forces[0]!.dials.clip = moving(p, 'played');
    });
  }
  for (const { kind, dials } of catalogue.colliders) {
    for (const acts of ['solid', 'zone']) {
      add(`collider ${kind}, ${acts}`, (p) => {
        p.colliders = [makePart('colliders', kind, [])];
        // Within a body of limbs it hangs on the last bit which of them holds a particle.
        const side = 'performer' in dials ? 'outside' : 'inside';
        Object.assign(p.colliders[0]!.dials, { acts, turn: [10, 20, 30], side });
        filled(dials, p.colliders[0]!.dials);
      });
    }
  }
  for (const { kind } of catalogue.pictures) {
    add(`picture ${kind}`, (p) => {
      const picture = moving(p, kind);
      const { dials } = p.pictures[0]!;
      const faster = { speed: 3, between: 'mixed', change: 2 };
      for (const [key, value] of Object.entries(faster)) if (key in dials) dials[key] = value;
      p.swarms[0]!.emitter = makeChoice('emitters', 'picture');
      p.swarms[0]!.emitter.dials.picture = picture;
      p.forces = [makePart('forces', 'clipFlow', [])];
      p.forces[0]!.dials.clip = picture;
      p.swarms[0]!.bodies.push(makePart('bodies', 'picture', p.swarms[0]!.bodies));
      Object.assign(p.swarms[0]!.bodies[1]!.dials, { picture, mode: 'normal', scale: 2 });
      p.finish.push(makePart('finish', 'pictureLayer', p.finish));
      Object.assign(p.finish.at(-1)!.dials, { picture, over: 'screen', size: 0.5, light: 0.4 });
    });
  }
  for (const { kind } of catalogue.performers) {
    add(`performer ${kind}, bound`, (p) => {
      dance(p, kind);
      p.swarms[0]!.emitter = makeChoice('emitters', 'joints');
      Object.assign(p.swarms[0]!.emitter.dials, {
        performer: 'dancers',
        from: 'surface',
        stays: 'bound',
        centre: [0, -1, 0],
      });
    });
  }
  for (const { kind } of catalogue.media) {
    for (const edges of ['closed', 'open', 'wrap'] as const) {
      add(`medium ${kind}, ${edges}`, (p) => {
        water(p);
        Object.assign(p.media[0]!.dials, { edges, spreading: 0.01, thickness: 0.005, by: 'speed' });
        p.media[0]!.dials.picture = moving(p, 'noise');
        p.colliders = [makePart('colliders', 'sphere', [])];
        Object.assign(p.colliders[0]!.dials, { radius: 0.3, centre: [0.5, 0, 0] });
        p.forces.push(makePart('forces', 'ride', p.forces));
        p.forces.at(-1)!.dials.medium = 'water';
      });
    }
  }
  for (const { kind, dials } of catalogue.sounds) {
    add(`sound ${kind}`, (p) => {
      p.sounds = [makePart('sounds', kind, [])];
      filled(dials, p.sounds[0]!.dials);
      p.signals = [makePart('signals', 'level', [])];
      p.signals[0]!.dials.sound = p.sounds[0]!.id;
      const feed = { feed: 'signal' as const, signal: p.signals[0]!.id };
      p.swarms[0]!.dials.size = { ...feed, from: 0.05, to: 0.4 };
    });
  }
  for (const { kind } of catalogue.signals) {
    add(`signal ${kind}`, (p) => {
      p.sounds = [{ ...makePart('sounds', 'played', []), id: 'heard' }];
      p.sounds[0]!.dials.sound = 'fogSignal';
      p.signals = [makePart('signals', kind, [])];
      named(p, p.signals[0]!);
      filled(kindOf('signals', kind).dials, p.signals[0]!.dials);
      const feed = { feed: 'signal' as const, signal: p.signals[0]!.id };
      p.swarms[0]!.emitter.dials.centre = [{ ...feed, from: -1, to: 1 }, 0, 0];
      p.swarms[0]!.dials.size = { ...feed, from: 0.05, to: 0.2 };
    });
  }
  const tried = new Set<unknown>();
  for (const { kind, dials } of catalogue.bodies) {
    const { mode } = dials;
    for (const { value } of mode?.type === 'choice' ? mode.options : []) {
      add(`body ${kind}, ${value}`, (p) => {
        const body = makePart('bodies', kind, []);
        filled(dials, body.dials);
        Object.assign(body.dials, { mode: value });
        p.swarms[0]!.bodies = [body];
        // What only darkens is not seen before a dark backdrop.
        if (value === 'multiply') p.backdrop = { kind: 'flat', dials: { colour: '#86a8b0' } };
      });
    }
    // Every other way that its choices offer; dials that kinds share are tried once.
    for (const [key, spec] of Object.entries(dials)) {
      if (spec.type !== 'choice' || key === 'mode' || tried.has(spec)) continue;
      tried.add(spec);
      for (const option of spec.options.slice(1)) {
        add(`body ${kind}, ${key} ${option.value}`, (p) => {
          const body = makePart('bodies', kind, []);
          filled(dials, body.dials);
          if ('form' in dials && key === 'smooth') body.dials.form = 'mesh';
          Object.assign(body.dials, { [key]: option.value });
          p.swarms[0]!.bodies = [body];
        });
      }
    }
  }
  for (const { kind } of catalogue.cameras) {
    for (const blades of [0, 5]) {
      add(`camera ${kind}, ${String(blades)} blades`, (p) => {
        p.camera = makeChoice('cameras', kind);
        Object.assign(p.camera.dials, { aperture: 0.4, focus: 4, blades, ratio: 1.5, shake: 2 });
      });
    }
  }
  add('camera along a line, shutter open', (p) => {
    const along = MADE.find((name) => made(name).type === 'outline')!;
    const looks = 'target';
    Object.assign(p.camera.dials, { along, looks, progress: 0.3, shutter: 180, samples: 3 });
  });
  for (const { kind } of catalogue.lights) {
    add(`light ${kind}`, (p) => {
      p.lights = [makePart('lights', kind, [])];
      p.lights[0]!.dials.strength = 4;
      if (kind === 'key') Object.assign(p.lights[0]!.dials, { shadow: 0.8, floor: -1 });
      const body = makePart('bodies', 'mesh', []);
      Object.assign(body.dials, { mode: 'opaque', facing: 'random' });
      const tube = makePart('bodies', 'trail', []);
      Object.assign(tube.dials, { form: 'tube', length: 8 });
      p.swarms[0]!.bodies = [body, tube];
    });
  }
  add('discs behind cubes', (p) => {
    const cube = makePart('bodies', 'mesh', []);
    cube.dials.mode = 'opaque';
    const disc = makePart('bodies', 'disc', []);
    Object.assign(disc.dials, { scale: 4, soft: 0.3 });
    p.swarms[0]!.bodies = [disc, cube];
  });
  add('cubes out of focus', (p) => {
    const cube = makePart('bodies', 'mesh', []);
    Object.assign(cube.dials, { mode: 'opaque', facing: 'random' });
    p.swarms[0]!.bodies = [cube];
    Object.assign(p.camera.dials, { aperture: 0.6, focus: 4 });
  });
  add('pinned to the camera', (p) => (p.swarms[0]!.dials.pinned = 'camera'));
  add('density', (p) => (p.density = 2.5));
  for (const { kind } of catalogue.backdrops) {
    add(`backdrop ${kind}`, (p) => (p.backdrop = makeChoice('backdrops', kind)));
  }
  for (const { kind, dials } of catalogue.finish) {
    const place = (change: DialValues, name = kind): void => {
      add(`finish ${name}`, (p) => {
        const part = makePart('finish', kind, []);
        filled(dials, part.dials);
        if ('size' in dials) part.dials.size = 0.3;
        if ('swarm' in dials) part.dials.swarm = 'motes';
        Object.assign(part.dials, change);
        p.finish = [part];
      });
    };
    place({});
    place({ share: 0.6, mask: [ELLIPSE, TRIANGLE, MARK], maskSide: 'outside' }, `${kind}, masked`);
  }
  add('strokes over a surface', (p) => {
    p.forces = [makePart('forces', 'brushed', [])];
    const places = [-1, 0, 0, 0, 0.5, 1, 1, 0, 0.5];
    const strokes = [{ places, radius: 1, strength: 1 }];
    Object.assign(p.forces[0]!.dials, { over: 'surface', mesh: 'buoy', strokes });
  });
  add('copies in a chain', (p) => {
    p.swarms[0]!.copies = [
      { count: 3, offset: [1, 0, 0], turn: [0, 20, 0], scale: 0.8 },
      { count: 2, offset: [0, 0.5, 0], turn: [0, 0, 0], scale: 1 },
    ];
  });
  add('copies that differ and run on', (p) => {
    const map = moving(p, 'noise');
    const [swarm] = p.swarms;
    const within = { offset: [0.8, 0, 0], turn: [0, 0, 0], scale: 1 } as const;
    const differ = { in: ['picture', 'colour', 'turn', 'opacity', 'map'] as Chance[], seed: 5 };
    swarm!.copies = [
      { count: 3, ...within, offset: [...within.offset], turn: [...within.turn], differ },
      { count: 2, offset: [0, 0.9, 0], turn: [0, 0, 15], scale: 0.9, runsOn: 'around' },
    ];
    swarm!.bodies = [makePart('bodies', 'pictureSet', []), makePart('bodies', 'square', [])];
    filled(kindOf('bodies', 'pictureSet').dials, swarm!.bodies[0]!.dials);
    Object.assign(swarm!.bodies[0]!.dials, { columns: 2, rows: 2, pick: 'order' });
    Object.assign(swarm!.bodies[1]!.dials, { turn: { feed: 'spread', from: -90, to: 90 } });
    Object.assign(swarm!.dials, {
      opacity: { feed: 'spread', from: 0.2, to: 1 },
      size: {
        feed: 'formula',
        text: `0.05 + 0.3 * map(${map}) * noise(x, y, age)`,
        from: 0,
        to: 1,
      },
      colour: { feed: 'map', picture: map, light: 2 },
    });
  });
  for (const as of ['greys', 'colours'] as const) {
    add(`colours in layers, as ${as}`, (p) => {
      const layer = { over: 'overlay', amount: 0.7 } as const;
      const picture = MADE.find((name) => made(name).type === 'picture')!;
      p.swarms[0]!.dials.colour = {
        feed: 'layers',
        as,
        layers: [
          { by: 'life', over: 'normal', amount: 1 },
          { by: 'random', ...layer },
          { by: 'reading', reading: 'speed', from: 0, to: 1, ...layer, over: 'add' },
          { by: 'reading', reading: 'distance', from: 0, to: 3, ...layer, over: 'darken' },
          { by: 'formula', text: 'sin(x) ^ 2', ...layer, over: 'multiply' },
          { by: 'picture', picture, at: 'birth', size: 4, ...layer, over: 'screen' },
          { by: 'picture', picture, at: 'now', size: 4, ...layer, over: 'lighten' },
        ],
        stops: [
          { at: 0, colour: '#1f4f6f', light: 1 },
          { at: 1, colour: '#ffb45c', light: 3 },
        ],
      };
    });
  }
  add('moved aside and masked by pictures', (p) => {
    const picture = moving(p, 'cells');
    p.finish.push(makePart('finish', 'displacement', p.finish));
    Object.assign(p.finish.at(-1)!.dials, { by: 'picture', picture, across: 0.2, down: 0.1 });
    p.finish.push(makePart('finish', 'colourLayer', p.finish));
    Object.assign(p.finish.at(-1)!.dials, { maskPicture: 'chart', mask: [ELLIPSE] });
  });
  for (const evaluate of ['birth', 'live'] as const) {
    add(`maps, ${evaluate}`, (p) => {
      const picture = moving(p, 'noise');
      const feed = { feed: 'map', picture, evaluate } as const;
      const { dials } = p.swarms[0]!;
      dials.size = { ...feed, channel: 'saturation', by: 'plane', from: 0.05, to: 0.3 };
      dials.opacity = { ...feed, picture: 'chart', channel: 'hue', from: 1, to: 0.2 };
      dials.colour = { ...feed, repeat: [3, 2], edge: 'mirrored', light: 2 };
    });
  }
  add('formula over readings', (p) => {
    const formula = { feed: 'formula' as const, from: 0, to: 1 };
    const { dials } = p.swarms[0]!;
    dials.size = { ...formula, text: '0.05 + 0.1 * noise(3 * x) ^ 2 + 0.02 * speed' };
    dials.opacity = { ...formula, text: 'lived < 0.5 ? random : pick(index % 7)' };
    dials.light = { ...formula, to: 3, text: '1 + sin(heading / 20) + y', evaluate: 'birth' };
  });
  return pieces;
}
