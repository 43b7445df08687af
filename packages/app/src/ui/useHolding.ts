import { useRef, type PointerEvent, type RefObject } from 'react';

/** Marks on a surface, one of which may be held by the pointer. */
interface Holding<E extends Element> {
  surface: RefObject<E | null>;
  /** Takes hold of a mark. */
  hold: (mark: number, pointer: number) => void;
  /** For the surface itself. */
  handlers: {
    onPointerMove: (event: PointerEvent) => void;
    onPointerUp: () => void;
  };
}

/**
 * Dragging marks over a surface: gradient stops, points of a shape, keys.
 *
 * @param onMove the held mark goes where the pointer is
 * @param onSettle it is let go
 */
export function useHolding<E extends Element>(
  onMove: (mark: number, event: PointerEvent) => void,
  onSettle: () => void,
): Holding<E> {
  const surface = useRef<E>(null);
  const held = useRef<number | null>(null);
  return {
    surface,
    hold: (mark, pointer) => {
      surface.current!.setPointerCapture(pointer);
      held.current = mark;
    },
    handlers: {
      onPointerMove: (event) => {
        if (held.current !== null) onMove(held.current, event);
      },
      onPointerUp: () => {
        if (held.current !== null) onSettle();
        held.current = null;
      },
    },
  };
}
