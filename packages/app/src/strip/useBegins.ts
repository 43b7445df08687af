import { useState, type KeyboardEventHandler, type PointerEvent } from 'react';
import type { Part, PartList } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { arrows } from '../ui/arrows';
import { useHolding } from '../ui/useHolding';
import { useStrip } from './StripContext';

interface Begins {
  /** Of what is held while it is dragged. */
  surface: ReturnType<typeof useHolding<HTMLDivElement>>['surface'];
  handlers: ReturnType<typeof useHolding<HTMLDivElement>>['handlers'];
  /** Of what is seen of the part: it says at which frame it begins, and moves it by keys and by hand. */
  slider: {
    role: 'slider';
    tabIndex: 0;
    'aria-label': string;
    'aria-valuenow': number;
    'aria-valuetext': string;
    onKeyDown: KeyboardEventHandler;
    onPointerDown: (event: PointerEvent) => void;
  };
}

/**
 * A sound or a clip that is moved along the strip.
 *
 * @param dial the one of its dials that says at which frame it begins
 */
export function useBegins(list: PartList, part: Part, at: number, dial: string): Begins {
  const dispatch = useAppDispatch();
  const { frameAt, snap } = useStrip();
  const start = part.dials[dial] as number;
  const [grip, setGrip] = useState(0);
  const begin = (frame: number): void => {
    const path = [list, at, 'dials', dial];
    const value = Math.round(frame);
    dispatch(pieceActions.set({ path, value, label: 'Begins at', merge: `start.${part.id}` }));
  };
  const settle = (): void => void dispatch(pieceActions.settled());
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((_, event) => {
    event.stopPropagation();
    begin(snap(frameAt(event) - grip, event));
  }, settle);
  return {
    surface,
    handlers,
    slider: {
      role: 'slider',
      tabIndex: 0,
      'aria-label': `${part.name} begins at`,
      'aria-valuenow': start,
      'aria-valuetext': `frame ${String(start)}`,
      onKeyDown: arrows('across', (way, far) => {
        begin(start + way * (far ? 10 : 1));
      }),
      onPointerDown: (event) => {
        event.stopPropagation();
        dispatch(pieceActions.selected({ list, id: part.id }));
        setGrip(frameAt(event) - start);
        hold(0, event.pointerId);
      },
    },
  };
}
