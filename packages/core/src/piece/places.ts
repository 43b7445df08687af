import { kindOf, type Shelf } from '../sections';
import type { ControlKind } from '../sections/kinds';
import { swarmDials } from '../sections/swarms/swarmDials';
import type { DialSpec, Dials } from '../language/dials';
import { thereAre } from './thereAre';
import { listsWhere } from '../sections/lists';
import { type Choice, type Part, type PartList, type Piece, type Swarm } from './types';

/**
 * Names of places in a piece that a control can hold: `swarms.fire.rate`, `swarms.fire.emitter.radius`,
 * `swarms.fire.bodies.disc.scale`, `forces.wind.direction.x`, `camera.distance`, `swarms.fire.on`.
 */
export interface Place {
  /** The dial, or 'on' for the switch of a part. */
  spec: DialSpec | 'on';
  path: (string | number)[];
  /** In words: the part, and the dial. */
  part: string;
  title: string;
}

const AXES = ['x', 'y', 'z'] as const;

/** Lists whose parts have dials that controls can hold. */
const heldLists = (): PartList[] => listsWhere((s) => !s.called);

/** Why there is no such place, in words. */
export class NoPlace extends Error {
  override readonly name = 'NoPlace';
}

/**
 * The place of a name.
 *
 * @throws NoPlace that says what there is instead
 */
export function placeNamed(piece: Piece, address: string): Place {
  const [list = '', ...rest] = address.split('.');
  if (list === 'camera' || list === 'backdrop') {
    const [shelf, part] =
      list === 'camera' ? (['cameras', 'Camera'] as const) : (['backdrops', 'Backdrop'] as const);
    return inDials(kindOf(shelf, piece[list].kind).dials, [list], part, rest);
  }
  if (!heldLists().includes(list as PartList)) {
    throw new NoPlace(
      `there is no '${list}'; there are camera, backdrop, ${heldLists().join(', ')}`,
    );
  }
  const [id = '', ...inside] = rest;
  const parts: readonly (Part | Swarm)[] = piece[list as PartList];
  const at = parts.findIndex((p) => p.id === id);
  if (at < 0) throw new NoPlace(`${list} have no '${id}'; ${thereAre(parts.map((p) => p.id))}`);
  const part = parts[at]!;
  if (inside.length === 1 && inside[0] === 'on') {
    return { spec: 'on', path: [list, at, 'on'], part: part.name, title: 'On' };
  }
  if ('emitter' in part) return inSwarm(part, ['swarms', at], inside);
  return inDials(kindOf(list as Shelf, part.kind).dials, [list, at], part.name, inside);
}

function inSwarm(swarm: Swarm, path: (string | number)[], inside: readonly string[]): Place {
  const [section, ...rest] = inside;
  const follows = (key: string): void => {
    if (!swarm.follows || swarm.own?.includes(key)) return;
    throw new NoPlace(`'${swarm.id}' has its ${key} from '${swarm.follows}', which it follows`);
  };
  if (section === 'emitter' || section === 'launch') {
    follows(section);
    const { kind }: Choice = swarm[section];
    const { dials } = section === 'emitter' ? kindOf('emitters', kind) : kindOf('launches', kind);
    return inDials(dials, [...path, section], swarm.name, rest);
  }
  if (section === 'bodies') {
    follows('bodies');
    const [id = '', ...more] = rest;
    const at = swarm.bodies.findIndex((b) => b.id === id);
    if (at < 0) {
      const ids = swarm.bodies.map((b) => b.id);
      throw new NoPlace(`'${swarm.id}' has no body '${id}'; ${thereAre(ids)}`);
    }
    const body = swarm.bodies[at]!;
    const name = `${swarm.name}, ${body.name}`;
    const own = [...path, 'bodies', at];
    if (more.length === 1 && more[0] === 'on') {
      return { spec: 'on', path: [...own, 'on'], part: name, title: 'On' };
    }
    return inDials(kindOf('bodies', body.kind).dials, own, name, more);
  }
  if (section !== undefined) follows(section);
  return inDials(swarmDials, path, swarm.name, inside);
}

function inDials(
  dials: Dials,
  path: readonly (string | number)[],
  part: string,
  [key = '', axis, ...more]: readonly string[],
): Place {
  const spec = Object.hasOwn(dials, key) ? dials[key] : undefined;
  if (!spec) throw new NoPlace(`${part} has no dial '${key}'; ${thereAre(Object.keys(dials))}`);
  const place = { spec, path: [...path, 'dials', key], part, title: spec.title };
  if (axis === undefined && spec.type !== 'vector') return place;
  const component = AXES.findIndex((a) => a === axis);
  if (spec.type !== 'vector' || component < 0 || more.length > 0) {
    const wanted =
      spec.type === 'vector' ? `is a vector; write ${key}.x, .y or .z` : 'has no parts';
    throw new NoPlace(`${part}: '${key}' ${wanted}`);
  }
  return { ...place, path: [...place.path, component], title: `${spec.title} ${axis!}` };
}

/** The name of a place, from where it stands: the other way round; null where controls hold nothing. */
export function addressOf(piece: Piece, path: readonly (string | number)[]): string | null {
  const [list, ...rest] = path;
  const words = (keys: readonly (string | number)[]): string[] =>
    keys
      .filter((k) => k !== 'dials')
      .map((k, i, all) => {
        const component = typeof k === 'number' && i === all.length - 1;
        return component ? AXES[k]! : String(k);
      });
  if (list === 'camera' || list === 'backdrop') return [list, ...words(rest)].join('.');
  if (!heldLists().includes(list as PartList)) return null;
  const [at, ...inside] = rest;
  const part = (piece[list as PartList] as readonly (Part | Swarm)[])[at as number];
  if (!part) return null;
  if (inside[0] !== 'bodies') return [list, part.id, ...words(inside)].join('.');
  const body = (part as Swarm).bodies[inside[1] as number];
  return body ? [list, part.id, 'bodies', body.id, ...words(inside.slice(2))].join('.') : null;
}

/** Whether a control that holds so can move what stands at a place. */
export function canHold(holds: ControlKind['holds'], spec: Place['spec']): boolean {
  if (spec === 'on') return holds === 'switch';
  switch (holds) {
    case 'number':
      return spec.type === 'number' || spec.type === 'vector';
    case 'switch':
      return false;
    case 'colour':
      return spec.type === 'colour';
    case 'gradient':
      return spec.type === 'colour' && spec.varies === 'life';
    case 'picture':
      return spec.type === 'stock' && spec.accepts.includes('picture');
    case 'option':
      return spec.type === 'choice';
  }
}

/** The kind of control that can move what stands at a place; null where none can. */
export function kindFor(spec: Place['spec']): string | null {
  if (spec === 'on') return 'switch';
  const kinds: Partial<Record<DialSpec['type'], string>> = {
    number: 'fader',
    vector: 'fader',
    colour: 'colour',
    choice: 'option',
    ...(spec.type === 'stock' && spec.accepts.includes('picture') ? { stock: 'picture' } : {}),
  };
  return kinds[spec.type] ?? null;
}
