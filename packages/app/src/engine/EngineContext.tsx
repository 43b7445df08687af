import { createContext, useContext, useSyncExternalStore } from 'react';
import type { EngineClient } from './client';
import type { FrameReport } from './messages';

export const EngineContext = createContext<EngineClient | null>(null);

export function useEngine(): EngineClient {
  const client = useContext(EngineContext);
  if (!client) throw new Error('no engine here');
  return client;
}

/** A value of the engine's latest report, by `select`; renders again only when it is another. */
export function useReport<T extends string | number | boolean>(
  select: (report: FrameReport | null) => T,
): T {
  const client = useEngine();
  return useSyncExternalStore(client.subscribe, () => select(client.report));
}
