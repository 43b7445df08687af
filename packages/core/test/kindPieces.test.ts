import { catalogue, type Shelf } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { kindPiece, RECIPES } from '@vast-swarm/core/demo';
import { swept } from '../../../tests/support/sweep';
import { validatePiece } from '@vast-swarm/core/piece';

const all = (Object.keys(catalogue) as Shelf[]).flatMap((shelf) =>
  catalogue[shelf].map(({ kind }) => [`${shelf} ${kind}`, shelf, kind] as const),
);

test.each(swept(all, 0.3))(
  'the guide has a piece for %s, and the kind is in it',
  (_, shelf, kind) => {
    const { piece } = kindPiece(shelf, kind);
    const valid = validatePiece(JSON.parse(JSON.stringify(piece)));
    expect(JSON.stringify(valid)).toContain(`"kind":"${kind}"`);
    expect(compilePiece(valid).swarms.length + (shelf === 'pictures' ? 1 : 0)).toBeGreaterThan(0);
  },
);

test.each(RECIPES)(
  'the recipe $name is whole, and has something to show',
  ({ list, parts, shown }) => {
    const { chosen, piece } = parts();
    expect(chosen).toHaveLength(1);
    expect(piece[list].map((p) => p.id)).toContain(chosen[0]!.id);
    expect(() => validatePiece(JSON.parse(JSON.stringify(piece)))).not.toThrow();
    expect(shown().swarms.some((s) => s.on)).toBe(true);
  },
);
