import { useMemo } from 'react';
import { cueDials, valuesOf } from '@vast-swarm/core/kinds';
import type { ControlValue } from '@vast-swarm/core/feeds';
import { useEngine } from '../engine/EngineContext';
import type { EngineClient } from '../engine/client';
import { store } from '../store/store';
import { toolActions } from '../store/toolSlice';

/** Controls that are moved and cues that are fired in the workshop. */
export interface Acts {
  set: (control: string, to: ControlValue, hold?: boolean) => void;
  letGo: (control: string) => void;
  fire: (cue: string) => void;
}

export function actsOf(engine: EngineClient): Acts {
  return {
    set(control, to, hold = false) {
      engine.act({ control, to, hold });
    },
    letGo(control) {
      engine.letGo(control);
    },
    fire(id) {
      const { piece } = store.getState().piece;
      const cue = piece?.cues.find((c) => c.id === id);
      if (!piece || !cue) return;
      engine.act({ cue: id });
      const { time, jump } = valuesOf(cueDials, cue.dials);
      if (time === 'holds') store.dispatch(toolActions.playSet(false));
      if (time !== 'jumps') return;
      const { rate, length } = piece.frame;
      engine.seek(Math.min(length - 1, Math.round(jump * rate)));
    },
  };
}

export function useActs(): Acts {
  const engine = useEngine();
  return useMemo(() => actsOf(engine), [engine]);
}
