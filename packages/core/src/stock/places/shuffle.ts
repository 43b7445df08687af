import { hashNumber } from '@vast-swarm/kernel';

/** 0 to n - 1 in a random order (R. Durstenfeld, "Algorithm 235", CACM 1964), as i32 bits. */
export function shuffled(n: number, seed: number): Float32Array {
  const order = Int32Array.from({ length: n }, (_, i) => i);
  for (let i = n - 1; i > 0; i--) {
    const j = (hashNumber(hashNumber(i) ^ seed) >>> 0) % (i + 1);
    [order[i], order[j]] = [order[j]!, order[i]!];
  }
  return new Float32Array(order.buffer);
}
