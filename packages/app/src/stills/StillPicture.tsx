import { Box } from '@mui/material';
import { useEffect, useRef } from 'react';
import { COLOURS } from '../ui/theme';
import type { Still, StillSize } from './stills';

/** A small picture; a word stands for one that could not be drawn, and a still ground for one that is on its way. */
export function StillPicture({ still, size }: { still: Still | undefined; size: StillSize }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!(still instanceof ImageBitmap)) return;
    canvas.current!.getContext('2d')!.drawImage(still, 0, 0);
  }, [still]);
  const ratio = `${String(size.width)} / ${String(size.height)}`;
  if (typeof still === 'string') {
    return (
      <Box
        sx={{ aspectRatio: ratio, p: 1, fontSize: 11, color: COLOURS.coral, overflow: 'hidden' }}
      >
        {still}
      </Box>
    );
  }
  return (
    <canvas
      ref={canvas}
      {...size}
      aria-hidden
      style={{
        width: '100%',
        aspectRatio: ratio,
        display: 'block',
        background: '#060b0c',
        opacity: still ? 1 : 0.4,
      }}
    />
  );
}
