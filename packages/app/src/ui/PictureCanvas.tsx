import { Box, type SxProps } from '@mui/material';
import { useEffect, useRef } from 'react';
import type { Picture } from '@vast-swarm/core/stock';
import { paintPicture } from './paintPicture';

interface Props {
  picture: Picture | null;
  /** Pixels of the canvas. */
  width: number;
  height: number;
  /** Its label, where nothing beside it says so. */
  label?: string;
  sx?: SxProps;
}

/** A picture, as large as fits into a canvas; empty where there is none. */
export function PictureCanvas({ picture, width, height, label, sx = {} }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !picture) return;
    context.clearRect(0, 0, width, height);
    void paintPicture(context, picture, 0, 0, width, height);
  }, [picture, width, height]);
  const told = label === undefined ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label };
  return <Box component="canvas" ref={canvas} {...{ width, height, sx }} {...told} />;
}
