import { hasScore } from '@vast-swarm/core/plan';
import { compiled } from './compiled';
import { load, withStock, type WorkOptions } from './load';
import { say } from './say';

export async function check(file: string, options: WorkOptions): Promise<void> {
  const { piece, files } = await withStock(file, await load(file, options));
  const plan = compiled(piece, { files });
  const { width, height, rate, length, preroll } = piece.frame;
  const lines = [
    `${piece.name}: ${String(width)}x${String(height)}, ${String(length)} frames at ${String(rate)} a second, pre-roll ${String(preroll)}`,
    ...plan.swarms.map(
      (s) => `  ${s.name}: room for ${s.capacity.toLocaleString('en-GB')} particles`,
    ),
    `  ${String(piece.forces.length)} forces, ${String(piece.finish.length)} finish steps`,
    ...(hasScore(piece)
      ? [
          `  ${String(piece.controls.length)} controls, ${String(piece.cues.length)} cues, ${String(piece.played.length)} changes played`,
        ]
      : []),
    ...plan.notices.map((n) => `note: ${n.message}`),
  ];
  say(lines.join('\n'));
}
