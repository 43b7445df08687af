import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import type { Part } from '@vast-swarm/core';
import { useEngine } from '../../engine/EngineContext';
import { COLOURS } from '../../theme';
import { paintPicture } from '../../ui/paintPicture';
import { useMoving } from '../useMoving';

const [W, H] = [320, 180];
/** Milliseconds from look to look: the picture of the piece comes first. */
const EVERY = 120;

/** A moving picture as it is in the frame that is shown. */
export function MovingPreview({ part }: { part: Part }) {
  const engine = useEngine();
  const moving = useMoving(part);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!moving) return;
    let [shown, asked, last, over] = [-1, false, 0, false];
    const put = async (): Promise<void> => {
      const state = moving.stateAt(Math.max(0, engine.report?.frame ?? 0));
      const now = performance.now();
      if (asked || state === shown || now - last < EVERY) return;
      asked = true;
      const picture = await moving.at(state);
      const context = over ? null : canvas.current?.getContext('2d');
      if (context) {
        context.clearRect(0, 0, W, H);
        await paintPicture(context, picture, 0, 0, W, H);
      }
      [shown, asked, last] = [state, false, now];
    };
    const look = (): void => void put();
    look();
    const leave = engine.subscribe(look);
    return () => {
      over = true;
      leave();
    };
  }, [engine, moving]);
  return (
    <Box sx={{ my: 1, color: COLOURS.faint, fontSize: 12.5 }}>
      <Box
        component="canvas"
        ref={canvas}
        width={W}
        height={H}
        role="img"
        aria-label={`${part.name} now`}
        sx={{ width: W, maxWidth: '100%', bgcolor: '#060b0c', display: 'block', borderRadius: 0.5 }}
      />
      {!moving && 'Choose a clip, or take one from a file.'}
    </Box>
  );
}
