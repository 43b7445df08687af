import { useEffect, useRef, useState } from 'react';
import type { Piece } from '@vast-swarm/core/piece';
import { filesOf } from '../data/stock';
import { Stills, type Still, type StillSize } from './stills';

/** Milliseconds that a change rests before it is drawn: dials are dragged. */
const REST = 250;

/** Small pictures of pieces at a frame, each as soon as it is drawn; undefined until then. */
export function useStills(
  pieces: readonly Piece[],
  frame: number,
  size: StillSize,
): readonly (Still | undefined)[] {
  const [stills, setStills] = useState<readonly (Still | undefined)[]>([]);
  const drawer = useRef<Stills | null>(null);
  useEffect(() => {
    const own = (drawer.current = new Stills());
    return () => {
      own.close();
      drawer.current = null;
    };
  }, []);
  const { width, height } = size;
  useEffect(() => {
    let current = true;
    const draw = async (): Promise<void> => {
      const files = await filesOf(pieces[0]?.stock ?? []);
      if (!current) return;
      setStills([]);
      await drawer.current!.draw(pieces, files, { frame, size: { width, height } }, (i, still) => {
        if (current) setStills((all) => Object.assign([...all], { [i]: still }));
      });
    };
    const timer = setTimeout(() => void draw(), REST);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [pieces, frame, width, height]);
  return stills;
}
