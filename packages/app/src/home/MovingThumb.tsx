import { useEffect, useRef, useState } from 'react';
import { loadPiece } from '../data/pieces';
import { filesOf } from '../data/stock';
import { EngineClient } from '../engine/client';

/** Lines of a moving thumbnail. */
const LINES = 180;

/** The piece itself, playing small over its still picture; nothing until its first frame is there. */
export function MovingThumb({ id }: { id: string }) {
  const holder = useRef<HTMLDivElement>(null);
  const [shown, setShown] = useState(false);
  useEffect(() => {
    const engine = new EngineClient('auto', {});
    engine.attach(holder.current!);
    const stop = engine.subscribe(() => {
      const { report } = engine;
      if (!report || report.settling > 0) return;
      holder.current!.dataset.frame = String(report.frame);
      setShown(true);
    });
    engine.setPreview('auto', LINES);
    const begin = async (): Promise<void> => {
      const piece = await loadPiece(id);
      if (!piece) return;
      engine.setStock(await filesOf(piece.stock));
      engine.setPiece(piece);
      engine.play(true);
    };
    // What cannot be read says so when it is opened.
    begin().catch(() => undefined);
    return () => {
      stop();
      engine.close();
    };
  }, [id]);
  return (
    <div
      ref={holder}
      aria-hidden
      data-testid="moving-thumb"
      style={{ position: 'absolute', inset: 0, opacity: shown ? 1 : 0 }}
    />
  );
}
