import { memo } from 'react';
import type { PartList } from '@vast-swarm/core/piece';
import { wordsOf } from '../sections/sections';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { KindChooser } from './KindChooser';

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
      label={wordsOf(list).add}
      placeholder={wordsOf(list).ask ?? 'Search by name or purpose'}
      onChoose={(kind) => dispatch(pieceActions.added({ list, kind }))}
    />
  );
});
