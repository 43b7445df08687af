import { kindOf, type Shelf } from '../catalogue';
import type { Dials, DialValues } from '../language/dials';
import { firstSwarm } from '../piece/begin';
import { makeChoice, makePart, makePiece } from '../piece/create';
import type { Piece, Swarm } from '../piece/types';
import { planktonLantern } from './pieces/planktonLantern';

/** Small pieces that show what a kind does, for the guide. */

/** Frame that shows it. */
const FRAME = 70;

/** What of the stock made by code a dial is given, by what it accepts. */
const GIVEN: Readonly<Record<string, string>> = {
  ...{ mesh: 'conch', picture: 'chart', outline: 'harbourMark', cloud: 'lamps' },
  ...{ table: 'dusk', sound: 'bellBreath', clip: 'ferry', motion: 'pierDancers' },
};
const TYPES: Readonly<Record<string, string>> = {
  ...{ conch: 'mesh', buoy: 'mesh', crystal: 'mesh', chart: 'picture', flags: 'picture' },
  ...{ harbourMark: 'outline', lamps: 'cloud', dusk: 'table', bellBreath: 'sound' },
  ...{ ferry: 'clip', pierDancers: 'motion' },
};

class Stage {
  readonly piece: Piece = makePiece('Kind');

  constructor() {
    const { piece } = this;
    piece.frame = { width: 320, height: 180, rate: 30, length: 240, preroll: 0, loop: false };
    piece.camera.dials.distance = 5;
    piece.stock = Object.entries(TYPES).map(([id, type]) => ({
      ...{ id, name: id, type: type as Piece['stock'][number]['type'], source: { made: id } },
    }));
  }

  /** A swarm of an emitter, filled with what it asks for. */
  swarm(emitter: string, dials: DialValues = {}, own: DialValues = {}): Swarm {
    const swarm = firstSwarm(emitter, this.piece.swarms);
    this.fill(kindOf('emitters', emitter).dials, swarm.emitter.dials);
    Object.assign(swarm.emitter.dials, own);
    Object.assign(swarm.dials, dials);
    this.piece.swarms.push(swarm);
    return swarm;
  }

  /** Gives dials what they ask for, and the piece what that needs. */
  fill(specs: Dials, values: DialValues): void {
    for (const [key, spec] of Object.entries(specs)) {
      if (key === 'maskPicture' || key === 'along') continue;
      if (spec.type === 'stock' && spec.moving && !spec.accepts.includes('picture')) {
        values[key] = this.moving('played');
      } else if (spec.type === 'stock') values[key] = GIVEN[spec.accepts[0]!] ?? '';
      else if (spec.type === 'stocks') values[key] = ['flags'];
      else if (spec.type === 'swarm') values[key] = this.piece.swarms[0]?.id ?? '';
      else if (spec.type === 'part') values[key] = this.part(spec.of);
      else if (spec.type === 'joints' && spec.most === 1) values[key] = ['Ada left hand'];
      else if (spec.type === 'strokes') values[key] = STROKES;
    }
  }

  /** One of the parts that dials name, by its id. */
  private part(of: 'performers' | 'media' | 'sounds' | 'signals'): string {
    const { piece } = this;
    const kind = { performers: 'played', media: 'fluid', sounds: 'played', signals: 'wave' }[of];
    if (piece[of].length === 0) {
      const part = makePart(of, kind, []);
      piece[of].push(part);
      this.fill(kindOf(of, kind).dials, part.dials);
      if (of === 'media') Object.assign(part.dials, { lines: 96, stir: 40, tint: 12, radius: 0.15 });
    }
    return piece[of].at(-1)!.id;
  }

  moving(kind: string): string {
    const part = makePart('pictures', kind, this.piece.pictures);
    this.piece.pictures.push(part);
    for (const key of ['clip', 'take']) if (key in part.dials) part.dials[key] = 'ferry';
    return part.id;
  }
}

const STROKES = [
  { points: [0.05, 0.75, 0.35, 0.25, 0.65, 0.75, 0.95, 0.25], radius: 0.3, strength: 1 },
];

const TINY = { feed: 'spread' as const, from: 0.01, to: 0.03 };

type Show = (stage: Stage, kind: string) => void;

const SHOWS: Partial<Record<Shelf, Show>> = {
  emitters(stage, kind) {
    if (kind === 'swarm' || kind === 'medium') {
      stage.swarm('ring', { rate: 60, size: 0.05, lifetime: 3 });
      const child = stage.swarm(kind, { rate: 4000, size: TINY, lifetime: 1 });
      if (kind === 'medium') {
        child.emitter.dials.full = 0.05;
        stage.piece.media[0]!.dials.swarm = stage.piece.swarms[0]!.id;
      }
      return;
    }
    const swarm = stage.swarm(kind, {}, kind === 'morph' ? { shape2: 'buoy', amount: 0.5 } : {});
    if (swarm.dials.when === 'steadily') Object.assign(swarm.dials, { rate: 5000, size: TINY });
    if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = 0.05;
  },
  launches(stage, kind) {
    const on = kind === 'byColour' ? 'picture' : kind === 'tangent' ? 'ring' : 'disc';
    const swarm = stage.swarm(on, { when: 'steadily', lasts: 'time', rate: 2500, lifetime: 1.5 });
    Object.assign(swarm.dials, { size: TINY });
    swarm.launch = makeChoice('launches', kind);
    stage.fill(kindOf('launches', kind).dials, swarm.launch.dials);
    if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = 1;
    swarm.bodies = [makePart('bodies', 'streak', [])];
  },
  forces(stage, kind) {
    const swarm = stage.swarm('sphere', { rate: 900, size: 0.02, lifetime: 2.5 }, { radius: 1.1 });
    if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = kind === 'drag' ? 2 : 0.25;
    swarm.bodies = [makePart('bodies', 'trail', [])];
    const force = makePart('forces', kind, []);
    stage.piece.forces.push(force);
    stage.fill(kindOf('forces', kind).dials, force.dials);
  },
  colliders(stage, kind) {
    const swarm = stage.swarm('box', { rate: 2500, size: TINY, lifetime: 2.5 });
    Object.assign(swarm.emitter.dials, { centre: [0, 2.2, 0], size: [2.6, 0.1, 1.2] });
    swarm.bodies = [makePart('bodies', 'streak', [])];
    stage.piece.forces.push(makePart('forces', 'gravity', []));
    const collider = makePart('colliders', kind, []);
    stage.piece.colliders.push(collider);
    stage.fill(kindOf('colliders', kind).dials, collider.dials);
    Object.assign(collider.dials, { bounce: 0.5, turn: kind === 'plane' ? [0, 0, -14] : [0, 0, 0] });
    if (kind === 'plane') collider.dials.centre = [0, -0.8, 0];
  },
  bodies(stage, kind) {
    const many = kind === 'links' || kind === 'trail';
    const swarm = stage.swarm('sphere', { rate: many ? 60 : 14, lifetime: 3 }, { radius: 1.2 });
    swarm.dials.size = many ? 0.03 : { feed: 'spread', from: 0.15, to: 0.4 };
    const body = makePart('bodies', kind, []);
    stage.fill(kindOf('bodies', kind).dials, body.dials);
    if (kind === 'links') body.dials.radius = 0.7;
    swarm.bodies = [body];
    stage.piece.forces.push(makePart('forces', 'curlNoise', []));
  },
  media(stage, kind) {
    const medium = makePart('media', kind, []);
    stage.piece.media.push(medium);
    Object.assign(medium.dials, { lines: 120, stir: 60, tint: 30, radius: 0.2, shown: 'behind' });
    const swarm = stage.swarm('ring', { rate: 300, size: TINY, lifetime: 2 });
    if ('swarm' in medium.dials) medium.dials.swarm = swarm.id;
    stage.piece.forces.push(makePart('forces', 'vortex', []));
  },
  lights(stage, kind) {
    const swarm = stage.swarm('lattice', { size: 0.22, colour: '#9fd4cb' });
    Object.assign(swarm.emitter.dials, { columns: 7, rows: 4, layers: 2, spacing: [0.45, 0.45, 0.45] });
    const body = makePart('bodies', 'mesh', []);
    swarm.bodies = [body];
    stage.piece.lights = [makePart('lights', kind, [])];
  },
  finish(stage, kind) {
    const { piece } = stage;
    const { swarms, forces, influence, camera } = structuredClone(planktonLantern);
    Object.assign(piece, { swarms, forces, influence, camera, density: 0.5 });
    const treatment = makePart('finish', kind, []);
    stage.fill(kindOf('finish', kind).dials, treatment.dials);
    piece.finish = kind === 'exposure' ? [treatment] : [treatment, makePart('finish', 'exposure', [])];
  },
  performers(stage, kind) {
    const performer = makePart('performers', kind, []);
    stage.piece.performers.push(performer);
    stage.fill(kindOf('performers', kind).dials, performer.dials);
    performer.dials[kindOf('performers', kind).plays] = 'pierDancers';
    stage.swarm('joints', { rate: 4000, size: TINY, lifetime: 0.6 }, { centre: [0, -1, 0] });
  },
  pictures(stage, kind) {
    const { piece } = stage;
    const layer = makePart('finish', 'pictureLayer', []);
    layer.dials.picture = stage.moving(kind);
    piece.finish = [layer, makePart('finish', 'exposure', [])];
  },
  signals(stage, kind) {
    const { piece } = stage;
    const signal = makePart('signals', kind, []);
    stage.fill(kindOf('signals', kind).dials, signal.dials);
    piece.signals.push(signal);
    const follows = { feed: 'signal' as const, signal: signal.id, from: -0.9, to: 0.9 };
    // A point that goes up and down with it leaves its curve behind.
    const swarm = stage.swarm('point', { rate: 1200, size: 0.05, lifetime: 3, opacity: 1 });
    swarm.emitter.dials.centre = [1.6, follows, 0];
    swarm.launch = makeChoice('launches', 'cone');
    Object.assign(swarm.launch.dials, { speed: 1.4, direction: [-1, 0, 0], angle: 0 });
  },
};

/** A piece that shows a kind, and the frame that does; null for what is not seen. */
export function kindPiece(shelf: Shelf, kind: string): { piece: Piece; frame: number } | null {
  const show = SHOWS[shelf];
  if (!show) return null;
  const stage = new Stage();
  show(stage, kind);
  return { piece: stage.piece, frame: FRAME };
}

/** Shelves whose kinds are shown. */
export const SHOWN_SHELVES = Object.keys(SHOWS) as Shelf[];
