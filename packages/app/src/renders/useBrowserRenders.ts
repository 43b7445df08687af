import { useEffect, useSyncExternalStore } from 'react';
import { browserQueue, type BrowserRender } from './browserQueue';

/** The renders of this browser. */
export function useBrowserRenders(): readonly BrowserRender[] {
  useEffect(() => {
    browserQueue.open();
  }, []);
  return useSyncExternalStore(browserQueue.subscribe, browserQueue.renders);
}
