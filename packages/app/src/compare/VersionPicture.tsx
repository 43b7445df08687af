import { useEffect, useRef, useState } from 'react';
import type { Piece } from '@vast-swarm/core/piece';
import { filesOf } from '../data/stock';
import { EngineClient } from '../engine/client';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';

interface Props {
  label: string;
  piece: Piece;
  frame: number;
  /** Is told the frame that is shown. */
  onShown: (frame: number) => void;
  lines: number;
}

/** One version at one frame, drawn by an engine of its own. */
export function VersionPicture({ label, piece, frame, onShown, lines }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const shown = useRef(onShown);
  const dispatch = useAppDispatch();
  useEffect(() => {
    shown.current = onShown;
  });
  const [generation, setGeneration] = useState(0);
  const [engine] = useState(
    () =>
      new EngineClient('auto', {
        trouble: (message) => {
          dispatch(noticed({ key: 'engine', kind: 'wrong', message }));
        },
        died: () => {
          setGeneration((n) => n + 1);
        },
      }),
  );
  useEffect(() => {
    engine.attach(holder.current!);
  }, [engine, generation]);
  useEffect(() => {
    const box = holder.current!;
    const stop = engine.subscribe(() => {
      const { report } = engine;
      if (!report || report.settling > 0) return;
      box.dataset.frame = String(report.frame);
      shown.current(report.frame);
    });
    return () => {
      stop();
      engine.close();
    };
  }, [engine]);
  useEffect(() => {
    void filesOf(piece.stock).then((files) => {
      engine.setStock(files);
    });
    engine.setPiece(piece);
  }, [engine, piece]);
  useEffect(() => {
    engine.setPreview('auto', lines);
  }, [engine, lines]);
  useEffect(() => {
    engine.seek(frame);
  }, [engine, frame]);
  return (
    <div ref={holder} role="img" aria-label={label} style={{ width: '100%', height: '100%' }} />
  );
}
