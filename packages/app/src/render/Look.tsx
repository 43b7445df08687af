import { useEffect, useRef } from 'react';

/** The latest frame of a render, small. */
export function Look({ bitmap }: { bitmap: ImageBitmap }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    canvas.current!.getContext('2d')!.drawImage(bitmap, 0, 0);
  }, [bitmap]);
  return (
    <canvas
      ref={canvas}
      width={bitmap.width}
      height={bitmap.height}
      role="img"
      aria-label="The latest frame"
      style={{ width: '100%', display: 'block' }}
    />
  );
}
