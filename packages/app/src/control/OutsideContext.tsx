import { createContext, useContext, useEffect, useState, useSyncExternalStore } from 'react';
import { offerOf } from '@vast-swarm/core/formats';
import type { EngineClient } from '../engine/client';
import { store } from '../store/store';
import { actsOf } from './useActs';
import { OutsideInput } from './outsideInput';

export const OutsideContext = createContext<OutsideInput | null>(null);

export function useOutside(): OutsideInput {
  const outside = useContext(OutsideContext);
  if (!outside) throw new Error('no outside here');
  return outside;
}

/** A value of the outside, drawn again when it is another. */
export function useOutsideTold<T extends string | boolean | null>(
  select: (outside: OutsideInput) => T,
): T {
  const outside = useOutside();
  return useSyncExternalStore(outside.told, () => select(outside));
}

/** Control of the open piece from outside, as long as it is open. */
export function useOutsideOf(engine: EngineClient): OutsideInput {
  const [outside] = useState(() => {
    const acts = actsOf(engine);
    return new OutsideInput(
      () => store.getState().piece.piece,
      () => engine.report?.controls ?? {},
      (act) => {
        if ('cue' in act) acts.fire(act.cue);
        else if ('control' in act) engine.act(act);
      },
    );
  });
  useEffect(() => {
    const tell = (): void => {
      const { piece } = store.getState().piece;
      if (piece) outside.runner.setOffer(offerOf(piece));
    };
    tell();
    const stop = store.subscribe(tell);
    return () => {
      stop();
      outside.close();
    };
  }, [outside]);
  return outside;
}
