import planktonLantern from '../../../../../demo/plankton-lantern.json';
import { validatePiece } from '../../piece/parse';
import type { Show } from './stage';

/** Stronger than they come, where what they do would not be seen in a small picture. */
const STRONGER: Readonly<Record<string, Record<string, number>>> = {
  aberration: { amount: 0.06 }, bloom: { amount: 2.5, radius: 0.3, threshold: 0.1 },
  blur: { radius: 0.03 }, displacement: { across: 0.25, down: -0.1 },
  feedback: { fade: 0.94, scale: 1.04, turn: 2 }, buildUp: { strength: 0.3 },
  grade: { hue: 150, saturation: 1.4, contrast: 1.2 }, grain: { amount: 0.4 },
  levels: { black: 0.1, white: 0.4 }, sharpen: { amount: 6, width: 10 },
  swarmLayer: { light: 6 }, vignette: { amount: 1, start: 0.05 }, glyphs: { glow: 4 },
  exposure: { stops: 2.5 },
};

export const finish: Show = (stage, kind) => {
  const { piece } = stage;
  const { swarms, forces, influence, camera } = validatePiece(planktonLantern);
  Object.assign(piece, { swarms, forces, influence, camera, density: 0.5, finish: [] });
  stage.add('finish', kind, STRONGER[kind]);
  if (kind !== 'exposure') stage.add('finish', 'exposure');
};
