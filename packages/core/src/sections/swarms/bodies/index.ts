import type { BodyKind } from '../../kinds';
import { disc } from './disc';
import { links } from './links';
import { mesh } from './mesh';
import { picture } from './picture';
import { pictureSet } from './pictureSet';
import { puff } from './puff';
import { ring } from './ring';
import { spark } from './spark';
import { square } from './square';
import { streak } from './streak';
import { trail } from './trail';

/** How particles are drawn, in the order of the chooser. */
export const bodies: BodyKind[] = [
  disc,
  ring,
  square,
  spark,
  puff,
  streak,
  picture,
  pictureSet,
  mesh,
  trail,
  links,
];
