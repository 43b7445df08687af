import { makePart, type Piece } from '@vast-swarm/core/piece';
import { compilePiece } from '@vast-swarm/core/plan';
import type { LiveEngine } from '@vast-swarm/core/play';
import { smallPiece } from '../../../tests/support/pieces';
import type { EngineEvent, FrameReport } from '../src/engine/messages';
import { Reporter } from '../src/engine/reporter';

function called(): Piece {
  return smallPiece((p) => {
    p.stock.push({ id: 'fog', name: 'Fog', type: 'sound', source: { made: 'fogSignal' } });
    p.sounds = [makePart('sounds', 'played', [])];
    p.sounds[0]!.dials.sound = 'fog';
    p.cues = [makePart('cues', 'cue', [])];
    Object.assign(p.cues[0]!.dials, { sound: p.sounds[0]!.id, by: 'yes', at: 1 });
  });
}

test('a sound that a cue starts is told a little before, so that it is heard on its frame; the cue when it has begun', () => {
  const sent: EngineEvent[] = [];
  const engine = { aliveBy: () => ({}), times: {} } as unknown as LiveEngine;
  const reporter = new Reporter(engine, (message) => sent.push(message));
  const piece = called();
  const plan = compilePiece(piece);
  const at = (frame: number): Pick<FrameReport, 'cue' | 'started'> => {
    const standing = { frame, playing: true, width: 1, height: 1, settling: 0, exact: true };
    reporter.frame({ ...standing, late: 0, lateFrames: 0 }, piece, plan);
    return (sent.at(-1) as Extract<EngineEvent, { type: 'frame' }>).report;
  };
  // Frames of a thirtieth of a second: the state at the end of frame 29 is that at 1 s.
  expect(at(19)).toMatchObject({ cue: null, started: [] });
  expect(at(22)).toMatchObject({ cue: null, started: [{ at: 1 }] });
  expect(at(28)).toMatchObject({ cue: null, started: [{ at: 1 }] });
  expect(at(30)).toMatchObject({ cue: { at: 1 }, started: [{ at: 1 }] });
});
