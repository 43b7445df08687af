declare const made: unique symbol;

/** A uniform's name. Only owners make names, so that no two of them can mean one by chance. */
export type Name = string & { readonly [made]: true };

const joined = (...parts: string[]): Name => parts.join('/') as Name;

/**
 * Who a uniform belongs to: a part of the piece, the frame, the camera, a thing of the stock. What a
 * kind works out for itself (`own`) stands apart from the values of its dials (`dial`); ids and keys
 * hold no slash, so that no id, key or purpose can reach into another's names.
 *
 * @example new Owner('force', 'wind').dial('speed') // force/wind/dial/speed
 */
export class Owner {
  private readonly path: string;

  constructor(...path: string[]) {
    this.path = path.join('/');
  }

  dial(key: string, ...parts: string[]): Name {
    return joined(this.path, 'dial', key, ...parts);
  }

  own(purpose: string, ...parts: string[]): Name {
    return joined(this.path, 'own', purpose, ...parts);
  }
}

/** Owner of the frame's values, of the camera that sees it, and of those of the frame before. */
export const FRAME = new Owner('frame');
export const CAMERA = new Owner('camera');
export const EARLIER = new Owner('earlier');
/** Owner of the slots of the kernel's own swarm. */
export const SWARM = new Owner('slots');

/** A part of a name. */
export function partOf(name: Name, part: string): Name {
  return joined(name, part);
}

/**
 * Uniforms that engines give with each run, and no plan: of births, rows of a trail, passes of a
 * treatment, repeats of a swarm (see plan/look/copies.ts), the grid of a medium's cells and the coarser one over it.
 */
export type Given =
  | ('idOffset' | 'first' | 'count' | 'ageFirst' | 'ageStep')
  | ('row' | 'known' | 'pass' | 'past.width' | 'past.height' | 'past.stride')
  | `copy.${string}`
  | `${'grid' | 'coarse'}.${'columns' | 'lines' | 'stride' | 'inverse'}`
  | 'grid.weight';

const GIVEN = 'given/';

export function given(name: Given): Name {
  return `${GIVEN}${name}` as Name;
}

/** Values of given uniforms, by name. */
export type GivenValues = Readonly<Partial<Record<Given, number>>>;

/** The value of a uniform that an engine gives; undefined for any other. */
export function givenValue(name: string, values: GivenValues): number | undefined {
  return name.startsWith(GIVEN) ? values[name.slice(GIVEN.length) as Given] : undefined;
}
