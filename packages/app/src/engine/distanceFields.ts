import { buildField, fieldsWanted, keepField, type Piece, type StockFiles } from '@vast-swarm/core';
import { pause } from './pause';

/** Builds the distance fields that a piece wants, a slice of milliseconds at a time. */
export async function buildFields(
  piece: Piece,
  files: StockFiles,
  slice: number,
  tell: (name: string, part: number) => void,
): Promise<void> {
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
      tell(name, value);
      await pause(0);
      until = performance.now() + slice;
    }
    tell(name, 1);
  }
}
