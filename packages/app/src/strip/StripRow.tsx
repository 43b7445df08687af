import type { ReactNode } from 'react';
import type { Strip } from '@vast-swarm/core/kinds';
import type { Part, PartList } from '@vast-swarm/core/piece';
import { useApp } from '../store/store';
import { Lane } from './Lane';
import { RowName } from './RowName';
import { StripGrips } from './StripGrips';
import type { Extent } from './trims';
import { useBegins } from './useBegins';

/** Labels and handlers of the picture in a row: a slider of the frame at which it begins. */
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
