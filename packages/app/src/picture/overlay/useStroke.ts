import { useRef, useState, type PointerEvent } from 'react';

export type Spot = [x: number, y: number];

interface Stroke {
  /** The line so far, in CSS pixels of the picture. */
  line: readonly Spot[];
  /** Put on the element that is drawn on. */
  events: {
    onPointerDown: (event: PointerEvent) => void;
    onPointerMove: (event: PointerEvent) => void;
    onPointerUp: () => void;
  };
}

/** A line drawn by the pointer, with a point every `grain` pixels; `done` gets the whole. */
export function useStroke(grain: number, done: (line: readonly Spot[]) => void): Stroke {
  const [line, setLine] = useState<readonly Spot[]>([]);
  // Moves come faster than React draws: the line itself is kept here.
  const points = useRef<Spot[] | null>(null);
  const place = (event: PointerEvent): Spot => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  return {
    line,
    events: {
      onPointerDown: (event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        points.current = [place(event)];
        setLine(points.current);
      },
      onPointerMove: (event) => {
        if (!points.current) return;
        const next = place(event);
        const [x, y] = points.current.at(-1)!;
        if (Math.hypot(next[0] - x, next[1] - y) < grain) return;
        points.current = [...points.current, next];
        setLine(points.current);
      },
      onPointerUp: () => {
        const whole = points.current ?? [];
        points.current = null;
        setLine([]);
        done(whole);
      },
    },
  };
}
