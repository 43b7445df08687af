import { useCallback, useEffect, useState } from 'react';
import type { RenderJob } from '@vast-swarm/core';
import { serverRenders } from './serverRenders';

/** Milliseconds between two looks. */
const EVERY = 1000;

export interface ServerRenders {
  /** Null until they are known. */
  jobs: readonly RenderJob[] | null;
  /** Why there are none. */
  trouble: string | null;
  /** Looks now. */
  look: () => Promise<void>;
}

/** The renders at the server, looked at again and again while somebody does. */
export function useServerRenders(): ServerRenders {
  const [jobs, setJobs] = useState<readonly RenderJob[] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const look = useCallback(async () => {
    try {
      setJobs(await serverRenders());
      setTrouble(null);
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
    }
  }, []);
  useEffect(() => {
    let [gone, next] = [false, 0];
    const again = (): void => {
      void look().finally(() => {
        if (!gone) next = window.setTimeout(again, EVERY);
      });
    };
    again();
    return () => {
      gone = true;
      clearTimeout(next);
    };
  }, [look]);
  return { jobs, trouble, look };
}
