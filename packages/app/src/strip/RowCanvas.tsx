import type { Ref } from 'react';
import type { Part } from '@vast-swarm/core/piece';
import type { Slider } from './StripRow';

interface Props {
  ref: Ref<HTMLCanvasElement>;
  /** Pixels; the width is stretched to the row's. */
  width: number;
  height: number;
  part: Part;
  slider: Slider;
  outline?: string;
}

/** The picture of a part in its row, dragged as the row is. */
export function RowCanvas({ ref, width, height, part, slider, outline }: Props) {
  return (
    <canvas
      {...{ ref, width, height }}
      {...slider}
      style={{
        width: '100%',
        height,
        display: 'block',
        cursor: 'grab',
        opacity: part.on ? 1 : 0.3,
        outline,
      }}
    />
  );
}
