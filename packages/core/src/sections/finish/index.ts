import type { FinishKind } from '../kinds';
import { mediumLayer } from './mediumLayer';
import { aberration } from './aberration';
import { bloom } from './bloom';
import { blur } from './blur';
import { buildUp } from './buildUp';
import { colourLayer } from './colourLayer';
import { directionalBlur } from './directionalBlur';
import { displacement } from './displacement';
import { edges } from './edges';
import { exposure } from './exposure';
import { feedback } from './feedback';
import { glyphs } from './glyphs';
import { grade } from './grade';
import { gradientLayer } from './gradientLayer';
import { gradientMap } from './gradientMap';
import { grain } from './grain';
import { halftone } from './halftone';
import { levels } from './levels';
import { lookupTable } from './lookupTable';
import { pictureLayer } from './pictureLayer';
import { radialBlur } from './radialBlur';
import { sharpen } from './sharpen';
import { swarmLayer } from './swarmLayer';
import { vignette } from './vignette';

/** Treatments of the finish, in the order of the chooser. */
export const finish: FinishKind[] = [
  bloom,
  feedback,
  buildUp,
  blur,
  directionalBlur,
  radialBlur,
  edges,
  sharpen,
  displacement,
  aberration,
  halftone,
  glyphs,
  levels,
  grade,
  gradientMap,
  lookupTable,
  colourLayer,
  gradientLayer,
  pictureLayer,
  swarmLayer,
  mediumLayer,
  exposure,
  vignette,
  grain,
];
