import { VERSION } from './schema';

type Migration = (piece: object) => object;

/** migrations[n] turns a piece of version n into one of version n + 1. */
const migrations: Record<number, Migration> = {
  /** Version 2 has signals, colliders, stock and copies. */
  1: (piece) => ({
    ...piece,
    ...{ colliders: [], signals: [], stock: [] },
    ...('swarms' in piece && Array.isArray(piece.swarms)
      ? { swarms: piece.swarms.map((s: object) => ({ ...s, copies: [] })) }
      : {}),
  }),
};

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
