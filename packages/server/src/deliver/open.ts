import { heardBetween } from '@vast-swarm/core/plan';
import { pieceText, type Piece } from '@vast-swarm/core/piece';
import type { StockFiles } from '@vast-swarm/core/stock';
import { needsLight } from '@vast-swarm/core/formats';
import { hashOf } from '../hashOf';
import { BUILD_HASH } from '../version';
import type { Delivery, Making } from './delivery';
import { openFolder } from './frameFolder';
import type { FramesMade } from './stamp';
import type { Target } from './target';
import { openVideo, wantsLight, type VideoAsked } from './videoFile';
import { videoOf, type CodecName, type Quality } from '@vast-swarm/core/formats';

/** Settings of a render beside its frames. */
export interface Asked extends Making {
  codec?: CodecName;
  quality: Quality;
  bits?: number;
  resume: boolean;
}

interface Work {
  piece: Piece;
  files: StockFiles;
  first: number;
  last: number;
}

/** The hash of a piece with all that is set and played in it; its stock stands in it by hashes. */
function pieceHash(piece: Piece): string {
  return hashOf(pieceText(piece)).slice(0, 24);
}

function videoAsked(target: Target & { kind: 'video' }, asked: Asked, work: Work): VideoAsked {
  const codec = asked.codec ?? videoOf(target.format).codecs[0];
  const { piece, files, first, last } = work;
  const { rate } = piece.frame;
  const heard = heardBetween(piece, files, first / rate, (last + 1) / rate);
  return { ...asked, ...target, codec, rate, heard, first, last };
}

/** Whether an engine has to leave the light of its frames for this. */
export function lightFor(
  target: Target,
  { codec, alpha }: Pick<Asked, 'codec' | 'alpha'>,
): boolean {
  return target.kind === 'video'
    ? wantsLight({ codec: codec ?? videoOf(target.format).codecs[0], alpha })
    : needsLight({ format: target.format, alpha });
}

/** The making of frames of a piece. */
export function makingOf(piece: Piece, making: Making & { format: string }): FramesMade {
  const { width, height, oversample, alpha, passes, format } = making;
  const size = `${String(width)}x${String(height)}`;
  const layers = passes.map((name) => name[0]).join('');
  return { size, oversample, alpha, format, layers, piece: pieceHash(piece), program: BUILD_HASH };
}

/** Opens what finished frames go to. */
export function openDelivery(target: Target, asked: Asked, work: Work): Promise<Delivery> {
  if (target.kind === 'video') return openVideo(videoAsked(target, asked, work));
  const { alpha, resume } = asked;
  const { piece, first, last } = work;
  const { format } = target;
  const made = makingOf(piece, { ...asked, format });
  const still = { format, alpha, rate: piece.frame.rate };
  return openFolder({ ...target, made, still, first, last, resume });
}
