import { Box } from '@mui/material';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { Scene } from '@vast-swarm/core/plan';
import type { Piece } from '@vast-swarm/core/piece';
import { useEngine } from '../engine/EngineContext';
import type { PreviewChoice } from '../engine/messages';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';
import { BuildingPlate } from './BuildingPlate';
import { bornFrom } from './bornFrom';
import { EmptyPicture } from './EmptyPicture';
import { moved, orbited, panned } from './orbit';
import { Overlay } from './overlay/Overlay';
import { usePointerSignals } from './usePointerSignals';

interface Props {
  preview: PreviewChoice;
  /** Changes when a new canvas is wanted, after the engine's worker died. */
  generation: number;
}

interface Size {
  width: number;
  height: number;
}

/** The frame. Drag orbits, Shift-drag pans, the wheel moves in. */
export function Picture({ preview, generation }: Props) {
  const frame = useApp((s) => s.piece.piece!.frame);
  const empty = useApp((s) => s.piece.piece!.swarms.length === 0);
  const engine = useEngine();
  const holder = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLDivElement>(null);
  const canvasHolder = useRef<HTMLDivElement>(null);
  const size = useFitting(holder, frame);
  useEffect(() => {
    engine.attach(canvasHolder.current!);
  }, [engine, generation]);
  useEffect(() => {
    engine.setPreview(preview, size.height * devicePixelRatio);
  }, [engine, preview, size.height]);
  useTelling(picture);
  useWheel(picture);
  usePointerSignals(picture);
  const pointer = usePointer(size);
  return (
    <Box
      ref={holder}
      sx={{
        position: 'relative',
        flex: 1,
        minHeight: 0,
        minWidth: 0,
        overflow: 'hidden',
        display: 'grid',
        placeItems: 'center',
      }}
    >
      <Box
        ref={picture}
        data-testid="picture"
        role="group"
        aria-label="Picture and handles"
        {...pointer}
        onDragOver={(event) => {
          event.preventDefault();
        }}
        onDrop={(event) => {
          const files = [...event.dataTransfer.files];
          // A piece is taken in as everywhere.
          if (files.some((f) => /\.json$/i.test(f.name))) return;
          event.preventDefault();
          void bornFrom(files);
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
        <div
          ref={canvasHolder}
          role="img"
          aria-label="Picture"
          style={{ width: '100%', height: '100%' }}
        />
        <Overlay size={size} />
      </Box>
      {empty && <EmptyPicture />}
      <BuildingPlate />
    </Box>
  );
}

/** The largest size of the frame's shape that there is room for. */
function useFitting(
  holder: RefObject<HTMLDivElement | null>,
  { width, height }: Piece['frame'],
): Size {
  const [size, setSize] = useState<Size>({ width: 16, height: 9 });
  useEffect(() => {
    const fit = (): void => {
      const { clientWidth: w, clientHeight: h } = holder.current!;
      const scale = Math.min(w / width, h / height);
      setSize({ width: Math.floor(width * scale), height: Math.floor(height * scale) });
    };
    const observer = new ResizeObserver(fit);
    observer.observe(holder.current!);
    fit();
    return () => {
      observer.disconnect();
    };
  }, [holder, width, height]);
  return size;
}

/** Thirty times a second is too often for React: what the picture tells is written straight on it. */
function useTelling(picture: RefObject<HTMLDivElement | null>): void {
  const engine = useEngine();
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
    [engine, picture],
  );
}

function moveCamera(change: (camera: Piece['camera']) => Piece['camera']): void {
  const { piece } = store.getState().piece;
  if (!piece) return;
  const value = change(piece.camera);
  store.dispatch(
    pieceActions.set({ path: ['camera'], value, label: 'Move the camera', merge: 'camera' }),
  );
}

function useWheel(picture: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const box = picture.current!;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      moveCamera((c) => moved(c, event.deltaY));
    };
    // React listens passively, and a passive listener cannot keep the page from scrolling.
    box.addEventListener('wheel', wheel, { passive: false });
    return () => {
      box.removeEventListener('wheel', wheel);
    };
  }, [picture]);
}

/** A drag moves the camera, a click follows the particle that is there. */
function usePointer(size: Size) {
  const engine = useEngine();
  const dispatch = useAppDispatch();
  const drag = useRef<{ x: number; y: number; moved: boolean } | null>(null);
  const move = (event: PointerEvent): void => {
    const from = drag.current;
    if (!from) return;
    const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
    if (!from.moved && Math.hypot(dx, dy) < 3) return;
    drag.current = { x: event.clientX, y: event.clientY, moved: true };
    moveCamera((c) => {
      if (!event.shiftKey) return orbited(c, dx, dy);
      const piece = store.getState().piece.piece!;
      const time = ((engine.report?.frame ?? 0) + 1) / piece.frame.rate;
      return panned(new Scene(piece), dx, dy, size.height, time);
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
  return {
    onPointerDown: (event: PointerEvent): void => {
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, y: event.clientY, moved: false };
    },
    onPointerMove: move,
    onPointerUp: (event: PointerEvent): void => {
      // A click lets go of the one before.
      if (drag.current && !drag.current.moved) follow(event);
      drag.current = null;
      dispatch(pieceActions.settled());
    },
  };
}
