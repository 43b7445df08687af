import { useEffect, useRef, useState } from 'react';
import { kindOf, type Part } from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../theme';
import { arrows } from '../../ui/arrows';
import { paintPicture } from '../../ui/paintPicture';
import { useHolding } from '../../ui/useHolding';
import { useMoving } from '../useMoving';
import { Lane } from './Lane';
import { RowName } from './RowName';
import { useStrip } from './StripContext';

const HEIGHT = 34;
/** Small frames in a row. */
const FRAMES = 14;
/** Pixels of one. */
const [WIDE, HIGH] = [60, HEIGHT];

/** A row for each clip: small frames of what it shows at their time, dragged there. */
export function PictureRows() {
  return usePiece().pictures.map((part, at) => {
    const { strip } = kindOf('pictures', part.kind);
    return strip ? <Row key={part.id} part={part} at={at} dial={strip.start} /> : null;
  });
}

function Row({ part, at, dial }: { part: Part; at: number; dial: string }) {
  const dispatch = useAppDispatch();
  const { frameAt, snap } = useStrip();
  const chosen = useApp(
    (s) => s.piece.selection?.list === 'pictures' && s.piece.selection.id === part.id,
  );
  const start = part.dials[dial] as number;
  const [grip, setGrip] = useState(0);
  const begin = (frame: number): void => {
    const path = ['pictures', at, 'dials', dial];
    const value = Math.round(frame);
    dispatch(pieceActions.set({ path, value, label: 'Begins at', merge: `start.${part.id}` }));
  };
  const settle = (): void => void dispatch(pieceActions.settled());
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((_, event) => {
    event.stopPropagation();
    begin(snap(frameAt(event) - grip, event));
  }, settle);
  const keys = arrows('across', (way, far) => {
    begin(start + way * (far ? 10 : 1));
  });
  return (
    <Lane height={HEIGHT} name={<RowName list="pictures" part={part} chosen={chosen} />}>
      <div ref={surface} {...handlers} style={{ position: 'absolute', inset: 0 }}>
        <SmallFrames
          part={part}
          slider={{
            role: 'slider',
            tabIndex: 0,
            'aria-label': `${part.name} begins at`,
            'aria-valuenow': start,
            'aria-valuetext': `frame ${String(start)}`,
            onKeyDown: keys,
            onPointerDown: (event) => {
              event.stopPropagation();
              dispatch(pieceActions.selected({ list: 'pictures', id: part.id }));
              setGrip(frameAt(event) - start);
              hold(0, event.pointerId);
            },
          }}
          chosen={chosen}
        />
      </div>
    </Lane>
  );
}

interface FramesProps {
  part: Part;
  chosen: boolean;
  slider: React.CanvasHTMLAttributes<HTMLCanvasElement>;
}

/** What the clip shows, evenly over the part of the strip that is seen. */
function SmallFrames({ part, chosen, slider }: FramesProps) {
  const { view } = useStrip();
  const moving = useMoving(part);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { from, to } = view;
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!;
    let over = false;
    const paint = async (): Promise<void> => {
      context.clearRect(0, 0, FRAMES * WIDE, HIGH);
      for (let i = 0; i < FRAMES && moving; i++) {
        const frame = Math.floor(from + ((i + 0.5) / FRAMES) * (to - from));
        const picture = await moving.at(moving.stateAt(Math.max(0, frame)));
        if (over) return;
        await paintPicture(context, picture, i * WIDE, 0, WIDE, HIGH);
      }
    };
    // A clip that cannot be read is told by the notice of it.
    paint().catch(() => undefined);
    return () => {
      over = true;
    };
  }, [moving, from, to]);
  return (
    <canvas
      ref={canvas}
      width={FRAMES * WIDE}
      height={HIGH}
      {...slider}
      style={{
        ...{ width: '100%', height: HEIGHT, display: 'block', cursor: 'grab' },
        ...{ opacity: part.on ? 1 : 0.3, outline: chosen ? `1px solid ${COLOURS.amber}` : 'none' },
      }}
    />
  );
}
