/** Where the numbers of a draw stand: by name, one word each or several in a row. */
export interface Layout<N extends string = string> {
  readonly at: Readonly<Record<N, number>>;
  readonly size: number;
}

/** Names in order, or names with how many words each takes. */
export type WordList = readonly string[] | Readonly<Record<string, number>>;
type NamesIn<P> = P extends readonly (infer N extends string)[] ? N : keyof P & string;

/**
 * Lays words out, list after list.
 *
 * @throws Error where two words have one name
 */
export function layout<const P extends readonly WordList[]>(
  ...lists: P
): Layout<NamesIn<P[number]>> {
  const at = new Map<string, number>();
  let size = 0;
  for (const list of lists) {
    const counted = Array.isArray(list)
      ? (list as string[]).map((name): [string, number] => [name, 1])
      : Object.entries(list as Record<string, number>);
    for (const [name, count] of counted) {
      if (at.has(name)) throw new Error(`draws: two words are called '${name}'`);
      at.set(name, size);
      size += count;
    }
  }
  return { at: Object.fromEntries(at), size } as Layout<NamesIn<P[number]>>;
}

/** How constants are called that are made from a name. */
export function constantName(name: string): string {
  return name.replace(/([a-z])([A-Z])/g, '$1_$2').toUpperCase();
}

/** The places of words as constants of a shader. */
export function wgslConstants({ at }: Layout): string {
  return Object.entries(at)
    .map(([name, place]) => `const ${constantName(name)} = ${String(place)};`)
    .join('\n');
}

type Values<N extends string> = Readonly<Partial<Record<N, number | readonly number[]>>>;

/** The words of one draw. */
export class Words<N extends string> {
  readonly words: Int32Array;
  private readonly singles: Float32Array;

  constructor(readonly layout: Layout<N>) {
    this.words = new Int32Array(layout.size);
    this.singles = new Float32Array(this.words.buffer);
  }

  private put(to: Int32Array | Float32Array, values: Values<N>): this {
    for (const [name, value] of Object.entries(values) as [N, number | readonly number[]][]) {
      const at = this.layout.at[name];
      if (typeof value === 'number') to[at] = value;
      else to.set(value, at);
    }
    return this;
  }

  /** Whole numbers, addresses, and what is on (1) or off (0). */
  whole(values: Values<N>): this {
    return this.put(this.words, values);
  }

  /** Numbers of single precision. */
  real(values: Values<N>): this {
    return this.put(this.singles, values);
  }
}
