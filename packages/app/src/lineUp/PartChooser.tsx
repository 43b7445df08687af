import { memo } from 'react';
import type { PartList } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { KindChooser } from './KindChooser';

const LABELS: Record<PartList, string> = {
  swarms: 'Add a swarm',
  forces: 'Add a force',
  colliders: 'Add a collider or zone',
  media: 'Add a medium',
  lights: 'Add a light',
  performers: 'Add a performer',
  pictures: 'Add a clip, camera or made map',
  sounds: 'Add a sound',
  signals: 'Add a signal',
  finish: 'Add a finish',
  controls: 'Add a control',
  cues: 'Add a cue',
};

interface Props {
  list: PartList;
  /** Whether its button says so. */
  inWords?: boolean;
}

/** Adds a part to a list; a swarm begins with its emitter. */
export const PartChooser = memo(function PartChooser({ list, inWords = false }: Props) {
  const dispatch = useAppDispatch();
  return (
    <KindChooser
      shelf={list === 'swarms' ? 'emitters' : list}
      recipes={list}
      inWords={inWords}
      label={LABELS[list]}
      placeholder={list === 'swarms' ? 'Where are particles born?' : 'Search by name or purpose'}
      onChoose={(kind) => dispatch(pieceActions.added({ list, kind }))}
    />
  );
});
