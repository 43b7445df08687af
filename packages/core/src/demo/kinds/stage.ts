import { catalogue, kindOf, type Shelf } from '../../sections';
import type { Dials, DialValues } from '../../language/dials';
import { firstSwarm } from '../../piece/begin';
import { makePart, makePiece } from '../../piece/create';
import { madeType } from '../../stock/makers';
import type { Choice, Part, PartList, Piece, Swarm } from '../../piece/types';

/** Names of made things that dials of the stock are given, by the type they accept. */
const GIVEN: Readonly<Record<string, string>> = {
  mesh: 'conch', picture: 'chart', outline: 'harbourMark', cloud: 'lamps',
  table: 'dusk', sound: 'bellBreath', clip: 'ferry', motion: 'pierDancers',
};
/** The kinds of parts that dials name, where that is not the first. */
const NAMED: Readonly<Record<string, string>> = {
  performers: 'played', media: 'fluid', sounds: 'played', signals: 'wave',
};
/** The stock of the stage. */
const MADE_THINGS = [...Object.values(GIVEN), 'buoy', 'crystal', 'flags'];

const STROKES = [
  { points: [0.05, 0.75, 0.35, 0.25, 0.65, 0.75, 0.95, 0.25], radius: 0.3, strength: 1 },
];

/** The size of particles that are seen as many. */
export const TINY = { feed: 'spread' as const, from: 0.01, to: 0.03 };

/** Puts what shows a kind on a stage. */
export type Show = (stage: Stage, kind: string) => void;

/** An empty piece with stock made by code, and ways to put parts into it that have all they ask for. */
export class Stage {
  readonly piece: Piece = makePiece('Kind');

  constructor() {
    const { piece } = this;
    piece.frame = { width: 320, height: 180, rate: 30, length: 240, preroll: 0, loop: false };
    piece.camera.dials.distance = 5;
    piece.stock = MADE_THINGS.map((made) => ({
      id: made, name: made, type: madeType(made)!, source: { made },
    }));
  }

  /** A swarm of an emitter, filled with what it asks for. */
  swarm(emitter: string, dials: DialValues = {}, own: DialValues = {}): Swarm {
    const swarm = firstSwarm(emitter, this.piece.swarms);
    this.filled('emitters', swarm.emitter, own);
    Object.assign(swarm.dials, dials);
    this.piece.swarms.push(swarm);
    return swarm;
  }

  /** A part at the end of a list, of the piece or of its last swarm, filled with what it asks for. */
  add(list: Exclude<PartList, 'swarms'> | 'bodies', kind: string, dials: DialValues = {}): Part {
    const parts = list === 'bodies' ? this.piece.swarms.at(-1)!.bodies : this.piece[list];
    const part = makePart(list, kind, parts);
    this.filled(list, part, dials);
    parts.push(part);
    return part;
  }

  /** The last swarm is drawn as this body alone, which is filled with what it asks for. */
  drawnAs(kind: string): Part {
    this.piece.swarms.at(-1)!.bodies = [];
    return this.add('bodies', kind);
  }

  /** A choice from a shelf, with the things of the stock and the parts that it asks for. */
  filled<C extends Choice>(shelf: Shelf, choice: C, dials: DialValues = {}): C {
    this.fill(kindOf(shelf, choice.kind).dials, choice.dials);
    Object.assign(choice.dials, dials);
    return choice;
  }

  /** Gives dials what they ask for, and the piece what that needs. */
  private fill(specs: Dials, values: DialValues): void {
    for (const [key, spec] of Object.entries(specs)) {
      if (key === 'maskPicture' || key === 'along') continue;
      if (spec.type === 'stock' && spec.moving && !spec.accepts.includes('picture')) {
        values[key] = this.moving('played');
      } else if (spec.type === 'stock') values[key] = GIVEN[spec.accepts[0]!] ?? '';
      else if (spec.type === 'stocks') values[key] = ['flags'];
      else if (spec.type === 'swarm') values[key] = this.piece.swarms[0]?.id ?? '';
      else if (spec.type === 'part') values[key] = this.named(spec.of);
      else if (spec.type === 'joints' && spec.most === 1) values[key] = ['Ada left hand'];
      else if (spec.type === 'strokes') values[key] = STROKES;
    }
  }

  /** One of the parts that dials name, by its id. */
  private named(list: string): string {
    const { piece } = this;
    const of = list as Exclude<PartList, 'swarms'>;
    const kind = NAMED[of] ?? catalogue[of][0]!.kind;
    if (piece[of].length === 0) {
      this.add(of, kind, of === 'media' ? { lines: 96, stir: 40, tint: 12, radius: 0.15 } : {});
    }
    return piece[of].at(-1)!.id;
  }

  /** A picture that changes with time, by its id. */
  moving(kind: string): string {
    const { id, dials } = this.add('pictures', kind);
    for (const key of ['clip', 'take']) if (key in dials) dials[key] = 'ferry';
    return id;
  }
}
