import { useMemo } from 'react';
import { controlKind, restOf, type Part } from '@vast-swarm/core/piece';
import { Fader, type Told } from '../control/Fader';
import { useEngine, useReport } from '../engine/EngineContext';
import { usePiece } from '../store/store';
import { OtherTile } from './OtherTile';
import type { Acts } from '../control/useActs';

interface Props {
  control: Part;
  acts: Acts;
}

/** A control as it is moved: at once seen, and recorded while the piece plays. */
export function ControlTile({ control, acts }: Props) {
  const engine = useEngine();
  const { id, name } = control;
  const kind = controlKind(control);
  const told = useMemo(
    (): Told<number> => ({
      read: () => (engine.report?.controls[id] ?? restOf(control)) as number,
      subscribe: engine.subscribe,
    }),
    [engine, id, control],
  );
  if (kind.holds !== 'number') return <Other {...{ control, acts }} />;
  const [min, max] = kind.range!(control.dials);
  return (
    <Fader
      {...{ name, min, max, told }}
      unit={control.dials.unit as string}
      height={28}
      onSet={(value, held) => {
        acts.set(id, value, held);
      }}
      onLetGo={() => {
        acts.letGo(id);
      }}
      onReset={() => {
        acts.set(id, restOf(control));
      }}
    />
  );
}

function Other({ control, acts }: Props) {
  const { id } = control;
  const piece = usePiece();
  const text = useReport((r) => JSON.stringify(r?.controls[id] ?? restOf(control)));
  return (
    <OtherTile
      {...{ piece, control, text }}
      height={28}
      onSet={(to) => {
        acts.set(id, to);
      }}
    />
  );
}
