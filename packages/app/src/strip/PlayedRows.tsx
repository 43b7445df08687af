import type { ComponentType } from 'react';
import { kindOf, type Strip } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import { useStockData } from '../stock/useStockData';
import { usePiece } from '../store/store';
import { useStrip } from './StripContext';
import { StripRow, type Slider } from './StripRow';
import { clipExtent, type Extent } from './trims';

/** Inputs of the picture in a row; the slider's handlers and labels go on its element. */
export interface RowContent {
  part: Part;
  chosen: boolean;
  slider: Slider;
}

interface Props {
  list: 'performers' | 'pictures';
  /** Pixels. */
  height: number;
  Content: ComponentType<RowContent>;
}

/** A row for each part of a list that plays a clip or a motion of the stock. */
export function PlayedRows({ list, height, Content }: Props) {
  return usePiece()[list].map((part, at) => {
    const { strip } = kindOf(list, part.kind);
    return strip && <Row key={part.id} {...{ list, height, Content, part, at, strip }} />;
  });
}

function Row({
  list,
  height,
  Content,
  part,
  at,
  strip,
}: Props & { part: Part; at: number; strip: Strip }) {
  const extent = useExtent(kindOf(list, part.kind).plays, part, strip);
  return (
    <StripRow {...{ list, part, at, strip, extent, height }}>
      {(slider, chosen) => <Content {...{ part, slider, chosen }} />}
    </StripRow>
  );
}

/**
 * Where a clip or a motion begins and ends, as soon as it has been read.
 *
 * @param plays the dial that names it; none where the part plays nothing of the stock
 */
function useExtent(plays: string | undefined, { dials }: Part, strip: Strip): Extent | null {
  const { rate } = useStrip();
  const data = useStockData(usePiece(), plays === undefined ? '' : (dials[plays] as string));
  const played = data?.type === 'clip' || data?.type === 'motion';
  return played ? clipExtent(dials, strip, data, rate) : null;
}
