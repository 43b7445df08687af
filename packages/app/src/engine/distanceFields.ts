import { buildField, keepField, type Mesh, type StockFiles } from '@vast-swarm/core/stock';
import { fieldsWanted } from '@vast-swarm/core/plan';
import type { Piece } from '@vast-swarm/core/piece';
import { pause } from './pause';

/**
 * Builds the distance fields that a piece wants, a slice of milliseconds at a time.
 *
 * @param latest the piece as it is by now; null where none is wanted any more
 */
export async function buildFields(
  piece: Piece,
  files: StockFiles,
  slice: number,
  latest: () => Piece | null,
  tell: (name: string, part: number) => void,
): Promise<void> {
  // The same field serves a newer piece too.
  const wants = (now: Piece | null, mesh: Mesh, detail: number): boolean =>
    now === piece ||
    (now !== null && fieldsWanted(now, files).some((f) => f.mesh === mesh && f.detail === detail));
  for (const { name, mesh, detail } of fieldsWanted(piece, files)) {
    const work = buildField(mesh, detail);
    let until = performance.now() + slice;
    for (;;) {
      const { done, value } = work.next();
      if (done) {
        keepField(mesh, detail, value);
        break;
      }
      if (performance.now() < until) continue;
      tell(`the measures of ${name}`, value);
      await pause(0);
      if (!wants(latest(), mesh, detail)) break;
      until = performance.now() + slice;
    }
    tell(name, 1);
  }
}
