import type { ReactNode } from 'react';
import type { Strip } from '@vast-swarm/core/kinds';
import type { Part, PartList } from '@vast-swarm/core/piece';
import { useStockData } from '../stock/useStockData';
import { useApp, usePiece } from '../store/store';
import { Lane } from './Lane';
import { RowName } from './RowName';
import { useStrip } from './StripContext';
import { StripGrips } from './StripGrips';
import { clipExtent, type Extent } from './trims';
import { useBegins } from './useBegins';

/** What is seen of the part in its row: it says at which frame it begins, and is moved by it. */
export type Slider = ReturnType<typeof useBegins>['slider'];

interface Props {
  list: PartList;
  part: Part;
  /** Its number in the list. */
  at: number;
  strip: Strip;
  /** Where it begins and ends; null as long as that is not known. */
  extent: Extent | null;
  height: number;
  children: (slider: Slider, chosen: boolean) => ReactNode;
}

/** A row of the strip for what plays along with the piece: dragged, and trimmed by handles. */
export function StripRow({ list, part, at, strip, extent, height, children }: Props) {
  const chosen = useApp(
    (s) => s.piece.selection?.list === list && s.piece.selection.id === part.id,
  );
  const { surface, handlers, slider } = useBegins(list, part, at, strip.start);
  return (
    <Lane height={height} name={<RowName list={list} part={part} chosen={chosen} />}>
      <div ref={surface} {...handlers} style={{ position: 'absolute', inset: 0 }}>
        {children(slider, chosen)}
      </div>
      {extent && <StripGrips {...{ list, part, at, strip, extent, height }} />}
    </Lane>
  );
}

/**
 * Where a clip or a motion begins and ends, as soon as it has been read.
 *
 * @param plays the dial that names it; none where the part plays nothing of the stock
 */
export function useExtent(plays: string | undefined, { dials }: Part, strip: Strip): Extent | null {
  const { rate } = useStrip();
  const data = useStockData(usePiece(), plays === undefined ? '' : (dials[plays] as string));
  const played = data?.type === 'clip' || data?.type === 'motion';
  return played ? clipExtent(dials, strip, data, rate) : null;
}
