import { addKind, number, signal } from '@vast-swarm/core/kinds';
import { takeAt, type Take } from '@vast-swarm/core/feeds';
import { makePart } from '@vast-swarm/core/piece';
import { compilePiece, Scene } from '@vast-swarm/core/plan';
import { CpuEngine } from '@vast-swarm/cpu';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import type { EngineEvent } from '../src/engine/messages';
import { Session } from '../src/engine/session';
import { playedAgain, undrawn } from './recorded';

/** A signal from a device, as somebody outside adds one: a kind with a take, which the device moves while the piece plays. */

const pedal = signal({
  kind: 'toyPedal',
  title: 'Toy pedal',
  help: 'How far a pedal is pressed.',
  icon: 'M4 12h16',
  dials: {
    take: {
      type: 'take' as const,
      title: 'Take',
      help: 'The pedal as it was recorded.',
      group: 'Dials',
      default: { rate: 30, first: 0, values: [] },
    },
    full: number('Fully pressed', 1, [0, 100], 'Its value then.', { varies: 'never' }),
  },
  follow:
    ({ take, full }) =>
    (time) =>
      full * takeAt(take, time, 0),
});

test('what a device does drives the piece, and its take gives the same again', async () => {
  addKind('signals', pedal);
  const driven = (take?: Take) =>
    smallPiece((p) => {
      p.signals = [{ ...makePart('signals', 'toyPedal', []), id: 'pedal' }];
      p.signals[0]!.dials.full = 0.2;
      if (take) p.signals[0]!.dials.take = take;
      p.swarms[0]!.dials.size = { feed: 'signal', signal: 'pedal', from: 0.01, to: 0.5 };
      p.swarms[0]!.launch.dials.speed = { feed: 'signal', signal: 'pedal', from: 0, to: 9 };
    });
  const engine = await CpuEngine.create({ threads: 1 });
  const stateOf = (one: CpuEngine): string => bytesHash(one.state('motes', 'px'));
  const seen = new Map<number, string>();
  const pressed = (frame: number): number => 0.5 + 0.5 * Math.sin(frame / 5);
  const take = await new Promise<Take>((resolve, reject) => {
    const tell = (event: EngineEvent): void => {
      if (event.type === 'trouble') reject(new Error(event.message));
      if (event.type === 'took') resolve(event.take);
      if (event.type !== 'frame') return;
      const { frame, playing, settling } = event.report;
      if (!playing || settling > 0) return;
      seen.set(frame, stateOf(engine));
      session.drive('pedal', frame === 50 ? null : pressed(frame));
      if (frame === 50) session.play(false);
    };
    const session = new Session(undrawn(engine), tell);
    session.setPiece(driven());
    session.play(true);
  });
  expect(take.values.length).toBeGreaterThan(30);
  const scene = new Scene(driven(take));
  const values = take.values.map((_, i) => scene.signal('pedal', (take.first + i + 1) / 30));
  expect(Math.max(...values)).toBeGreaterThan(0.15);
  expect(Math.max(...values)).toBeLessThanOrEqual(0.2);
  engine.setPlan(compilePiece(driven(take)));
  expect(await playedAgain(engine, stateOf, seen, [0, 50])).toBeGreaterThan(20);
  engine.close();
});
