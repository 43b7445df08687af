import { pieceText, type Piece } from '@vast-swarm/core/piece';
import { isVideo, type RenderOrder } from '@vast-swarm/core/formats';
import { strToU8, zipSync } from 'fflate';
import { stockFilesOf } from '../data/files';
import { askedOf, groupOf, type Settings } from '../formats/settings';

/** Whether the server renders what is asked for. */
export const canBeOrdered = (settings: Settings): boolean =>
  groupOf(settings.format) !== 'particles';

/** The order to the server. */
export function orderOf(piece: Piece, settings: Settings): RenderOrder {
  const asked = askedOf(piece, settings);
  const { width, height, first, last, oversample, shutter, alpha, layers } = asked;
  return {
    name: piece.name,
    format: isVideo(asked.format) ? asked.format : asked.still,
    ...(isVideo(asked.format) ? { codec: asked.codec } : {}),
    quality: asked.quality,
    alpha,
    layers: [...layers],
    width,
    height,
    first,
    last,
    oversample,
    shutter,
    frames: asked.name,
  };
}

/** The order with the piece and all that it uses from files. */
export async function orderZip(piece: Piece, settings: Settings): Promise<Blob> {
  const files = {
    'order.json': strToU8(JSON.stringify(orderOf(piece, settings))),
    'piece.swarm.json': strToU8(pieceText(piece)),
    stock: await stockFilesOf([piece]),
  };
  return new Blob([zipSync(files, { level: 1 })], { type: 'application/zip' });
}
