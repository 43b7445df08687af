import { VERSION } from './schema';

type Migration = (piece: object) => object;

/** migrations[n] turns a piece of version n into one of version n + 1. */
const migrations: Record<number, Migration> = {};

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
