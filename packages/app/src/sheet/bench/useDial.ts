import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch } from '../../store/store';
import type { DialValue } from '@vast-swarm/core/feeds';

/** Turns a dial of a signal; turns in a row are one step to undo until it is settled. */
export function useDial(
  at: number,
  dial: string,
): { put: (value: DialValue) => void; settle: () => void } {
  const dispatch = useAppDispatch();
  const path = ['signals', at, 'dials', dial];
  return {
    put: (value) => {
      const kept = typeof value === 'number' ? Number(value.toPrecision(4)) : value;
      dispatch(pieceActions.set({ path, value: kept, label: 'Bench', merge: path.join('.') }));
    },
    settle: () => void dispatch(pieceActions.settled()),
  };
}
