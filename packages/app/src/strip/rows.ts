import type { ComponentType } from 'react';
import type { PartList } from '@vast-swarm/core/piece';
import { CueRow } from './CueRow';
import { KeyRows } from './KeyRows';
import { PerformerRows } from './PerformerRows';
import { PictureRows } from './PictureRows';
import { SoundRows } from './SoundRows';
import { SwarmRows } from './SwarmRows';

/** Rows of the timing strip by list, from the top; parts of other lists have none. */
export const ROWS: readonly [PartList, ComponentType][] = [
  ['cues', CueRow],
  ['swarms', SwarmRows],
  ['performers', PerformerRows],
  ['pictures', PictureRows],
  ['sounds', SoundRows],
  ['signals', KeyRows],
];
