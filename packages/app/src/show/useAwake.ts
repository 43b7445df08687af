import { useEffect } from 'react';

/** Keeps the screen awake, as long as the page is seen and the browser can. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let left = false;
    const hold = async (): Promise<void> => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (left) await lock.release();
      } catch {
        // A battery that runs low refuses it; the picture goes on.
      }
    };
    // It is let go of whenever the page is out of sight.
    const seen = (): void => void hold();
    void hold();
    document.addEventListener('visibilitychange', seen);
    return () => {
      left = true;
      document.removeEventListener('visibilitychange', seen);
      void lock?.release();
    };
  }, []);
}
