import { useEffect, useRef } from 'react';
import { kindOf, type Strip } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { paintPicture } from '../ui/paintPicture';
import { useMoving } from '../answers/useMoving';
import { useStrip } from './StripContext';
import { StripRow, useExtent, type Slider } from './StripRow';

const HEIGHT = 34;
/** Small frames in a row. */
const FRAMES = 14;
/** Pixels of one. */
const [WIDE, HIGH] = [60, HEIGHT];

/** A row for each clip: small frames of what it shows at their time, dragged and trimmed there. */
export function PictureRows() {
  return usePiece().pictures.map((part, at) => {
    const { strip } = kindOf('pictures', part.kind);
    return strip ? <Row key={part.id} part={part} at={at} strip={strip} /> : null;
  });
}

function Row({ part, at, strip }: { part: Part; at: number; strip: Strip }) {
  const extent = useExtent(kindOf('pictures', part.kind).plays, part, strip);
  return (
    <StripRow list="pictures" {...{ part, at, strip, extent }} height={HEIGHT}>
      {(slider, chosen) => <SmallFrames part={part} slider={slider} chosen={chosen} />}
    </StripRow>
  );
}

interface FramesProps {
  part: Part;
  chosen: boolean;
  slider: Slider;
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
        width: '100%',
        height: HEIGHT,
        display: 'block',
        cursor: 'grab',
        opacity: part.on ? 1 : 0.3,
        outline: chosen ? `1px solid ${COLOURS.amber}` : 'none',
      }}
    />
  );
}
