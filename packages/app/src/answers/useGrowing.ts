import { useEffect, useState } from 'react';
import { useMicrophone } from '../inputs/LiveContext';

/** Milliseconds after which what is being recorded is looked at again. */
const EVERY = 200;

/** Another number from time to time while sound is recorded: what is drawn of it is out of date. */
export function useGrowing(): number {
  const [, { recording }] = useMicrophone();
  const [count, setCount] = useState(0);
  useEffect(() => {
    if (recording === null) return;
    const timer = setInterval(() => {
      setCount((n) => n + 1);
    }, EVERY);
    return () => {
      clearInterval(timer);
    };
  }, [recording]);
  return count;
}
