import { useEffect, useRef } from 'react';
import { COLOURS } from '../ui/theme';
import { paintPicture } from '../ui/paintPicture';
import { useMoving } from '../answers/useMoving';
import { useStrip } from './StripContext';
import { PlayedRows, type RowContent } from './PlayedRows';
import { RowCanvas } from './RowCanvas';

const HEIGHT = 34;
/** Small frames in a row. */
const FRAMES = 14;
/** Pixels of one. */
const [WIDE, HIGH] = [60, HEIGHT];

/** A row for each clip: small frames of what it shows at their time, dragged and trimmed there. */
export function PictureRows() {
  return <PlayedRows list="pictures" height={HEIGHT} Content={SmallFrames} />;
}

/** Frames of the clip, evenly over the part of the strip that is seen. */
function SmallFrames({ part, chosen, slider }: RowContent) {
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
    <RowCanvas
      ref={canvas}
      {...{ width: FRAMES * WIDE, height: HEIGHT, part, slider }}
      outline={chosen ? `1px solid ${COLOURS.amber}` : 'none'}
    />
  );
}
