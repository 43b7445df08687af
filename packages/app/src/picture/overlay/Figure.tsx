import { isThere } from '@vast-swarm/core/stock';
import { project } from '@vast-swarm/core/play';
import type { CameraPose } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import type { Vector } from '@vast-swarm/core/feeds';
import { useReport } from '../../engine/EngineContext';
import { usePiece } from '../../store/store';
import { useJoints } from '../../inputs/LiveContext';
import { COLOURS } from '../../ui/theme';
import { usePerforming } from '../../answers/usePerforming';

interface Props {
  performer: Part;
  camera: CameraPose;
  size: { width: number; height: number };
}

/** The bones of a performer over the picture, where they are in the frame, while their sheet is open. */
export function Figure({ performer, camera, size }: Props) {
  const { rate } = usePiece().frame;
  const performing = usePerforming(performer);
  const frame = useReport((r) => Math.max(0, r?.frame ?? 0));
  const [, { recording }] = useJoints();
  // While they are recorded, the take before is not what is seen.
  if (!performing || !performer.on || recording === performer.id) return null;
  const second = (frame + 1) / rate;
  if (!isThere(performing, second)) return null;
  const places = performing.at(second);
  const point = (joint: number): Vector | null =>
    project(camera, size, [...places.subarray(3 * joint, 3 * joint + 3)] as Vector);
  return (
    <g aria-label={`Figure of ${performer.name}`} stroke={COLOURS.amber} strokeOpacity={0.7}>
      {performing.bones.map(({ from, to }) => {
        const [a, b] = [point(from), point(to)];
        if (!a || !b) return null;
        const ends = { x1: a[0], y1: a[1], x2: b[0], y2: b[1] };
        return <line key={`${String(from)} ${String(to)}`} {...ends} strokeWidth={1.4} />;
      })}
    </g>
  );
}
