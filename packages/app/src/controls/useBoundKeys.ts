import { useEffect } from 'react';
import { listenToBound } from '../control/boundKeys';
import type { EngineClient } from '../engine/client';
import { store } from '../store/store';
import { actsOf } from '../control/useActs';

/** Keys that the piece binds, while it plays: before the workshop's own. */
export function useBoundKeys(engine: EngineClient): void {
  useEffect(
    () =>
      listenToBound({
        piece: () => (store.getState().tools.playing ? store.getState().piece.piece : null),
        values: () => engine.report?.controls ?? {},
        ...actsOf(engine),
      }),
    [engine],
  );
}
