import { Box } from '@mui/material';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { Scene, type Piece } from '@vast-swarm/core';
import { useEngine } from '../../engine/EngineContext';
import type { PreviewChoice } from '../../engine/messages';
import { pieceActions } from '../../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../../store/store';
import { toolActions } from '../../store/toolSlice';
import { COLOURS } from '../../theme';
import { EmptyPicture } from './EmptyPicture';
import { moved, orbited, panned } from './orbit';
import { Overlay } from './overlay/Overlay';

interface Props {
  preview: PreviewChoice;
  /** Changes when a new canvas is wanted, after the engine's worker died. */
  generation: number;
}

/** The frame. Drag orbits, Shift-drag pans, the wheel moves in. */
export function Picture({ preview, generation }: Props) {
  const frame = useApp((s) => s.piece.piece!.frame);
  const empty = useApp((s) => s.piece.piece!.swarms.length === 0);
  const engine = useEngine();
  const dispatch = useAppDispatch();
  const holder = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 16, height: 9 });
  const canvasHolder = useRef<HTMLDivElement>(null);
  const drag = useRef<{ x: number; y: number; moved: boolean } | null>(null);

  useEffect(() => {
    engine.attach(canvasHolder.current!);
  }, [engine, generation]);

  useEffect(() => {
    const fit = (): void => {
      const { clientWidth: w, clientHeight: h } = holder.current!;
      const scale = Math.min(w / frame.width, h / frame.height);
      setSize({ width: Math.floor(frame.width * scale), height: Math.floor(frame.height * scale) });
    };
    const observer = new ResizeObserver(fit);
    observer.observe(holder.current!);
    fit();
    return () => {
      observer.disconnect();
    };
  }, [frame.width, frame.height]);

  useEffect(() => {
    engine.setPreview(preview, size.height * devicePixelRatio);
  }, [engine, preview, size.height]);

  // Thirty times a second is too often for React: what the picture tells is written straight on it.
  useEffect(
    () =>
      engine.subscribe(() => {
        const { report } = engine;
        const data = picture.current?.dataset;
        if (!report || !data) return;
        data.frame = String(report.frame);
        data.alive = String(report.alive);
        data.fps = report.fps.toFixed(1);
        data.engine = report.engine;
        data.settling = String(report.settling);
        data.playing = String(report.playing);
        data.exact = String(report.exact);
        data.cost = Object.values(report.times)
          .map((t) => t.toFixed(1))
          .join(' ');
      }),
    [engine],
  );

  const camera = (change: (camera: Piece['camera']) => Piece['camera']): void => {
    const { piece } = store.getState().piece;
    if (!piece) return;
    const value = change(piece.camera);
    dispatch(
      pieceActions.set({ path: ['camera'], value, label: 'Move the camera', merge: 'camera' }),
    );
  };
  useEffect(() => {
    const box = picture.current!;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      camera((c) => moved(c, event.deltaY));
    };
    // React listens passively, and a passive listener cannot keep the page from scrolling.
    box.addEventListener('wheel', wheel, { passive: false });
    return () => {
      box.removeEventListener('wheel', wheel);
    };
  });
  const move = (event: PointerEvent): void => {
    const from = drag.current;
    if (!from) return;
    const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
    if (!from.moved && Math.hypot(dx, dy) < 3) return;
    drag.current = { x: event.clientX, y: event.clientY, moved: true };
    const time = ((engine.report?.frame ?? 0) + 1) / frame.rate;
    camera((c) => {
      if (!event.shiftKey) return orbited(c, dx, dy);
      return panned(new Scene(store.getState().piece.piece!), dx, dy, size.height, time);
    });
  };
  const follow = (event: PointerEvent): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = (event.clientX - box.left) / box.width;
    const y = (event.clientY - box.top) / box.height;
    const { piece, selection } = store.getState().piece;
    const chosen = selection?.list === 'swarms' ? selection.id : null;
    const there = piece?.swarms.some((s) => s.id === chosen && s.on);
    engine.follow({ x, y, swarm: there ? chosen : null });
    dispatch(toolActions.followingSet(true));
  };
  return (
    <Box
      ref={holder}
      sx={{
        position: 'relative',
        flex: 1,
        minHeight: 0,
        minWidth: 0,
        display: 'grid',
        placeItems: 'center',
        overflow: 'hidden',
      }}
    >
      <Box
        ref={picture}
        data-testid="picture"
        role="img"
        aria-label="Picture"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { x: event.clientX, y: event.clientY, moved: false };
        }}
        onPointerMove={move}
        onPointerUp={(event) => {
          // A click follows the particle that is there, or lets go of the one before.
          if (drag.current && !drag.current.moved) follow(event);
          drag.current = null;
          dispatch(pieceActions.settled());
        }}
        sx={{
          ...size,
          position: 'relative',
          bgcolor: '#000',
          cursor: 'grab',
          outline: `1px solid ${COLOURS.line}`,
          touchAction: 'none',
        }}
      >
        <div ref={canvasHolder} style={{ width: '100%', height: '100%' }} />
        <Overlay size={size} />
      </Box>
      {empty && <EmptyPicture />}
    </Box>
  );
}
