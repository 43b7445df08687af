import type { Mesh } from '@vast-swarm/core/stock';
import { Compiler } from '../src/engine/compiler';

test('a file that comes once more is the one that is there, with all that was worked out of it', () => {
  const compiler = new Compiler(() => undefined, undefined, null);
  const mesh = (): Mesh => ({
    type: 'mesh',
    positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
    triangles: Uint32Array.of(0, 1, 2),
  });
  compiler.take(new Map([['a', mesh()]]));
  const first = compiler.files.get('a');
  compiler.take(
    new Map([
      ['a', mesh()],
      ['b', mesh()],
    ]),
  );
  expect(compiler.files.get('a')).toBe(first);
  expect(compiler.files.get('b')).toEqual(first);
  // What is no longer sent is gone.
  compiler.take(new Map([['b', mesh()]]));
  expect([...compiler.files.keys()]).toEqual(['b']);
});
