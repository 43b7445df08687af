import { Box, Button } from '@mui/material';
import type { UnknownAction } from '@reduxjs/toolkit';
import type { ReactNode } from 'react';
import { kindOf, type RecordedList } from '@vast-swarm/core/kinds';
import type { Part, PartList } from '@vast-swarm/core/piece';
import { readersOf } from '../store/pieceEdits';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch, usePiece } from '../store/store';
import { Bench } from './bench/Bench';
import { CameraInput } from './CameraInput';
import { JointsInput } from './JointsInput';
import { MovingPreview } from './MovingPreview';
import { PickOne } from './PickOne';
import { SoundInput } from './SoundInput';

interface ExtraProps {
  part: Part;
  /** Its number in its list. */
  at: number;
}

/** More of a section's sheet, above the dials of its part. */
export const EXTRAS: Partial<Record<PartList, (props: ExtraProps) => ReactNode>> = {
  sounds: ({ part }) => <Live list="sounds" part={part} />,
  pictures: ({ part }) => (
    <>
      <Live list="pictures" part={part} />
      {isTaken('pictures', part) !== false && <MovingPreview key={part.id} part={part} />}
    </>
  ),
  performers: ({ part }) => (
    <>
      <Live list="performers" part={part} />
      <TakeOver performer={part.id} />
    </>
  ),
  signals: ({ part, at }) => <Bench key={part.id} signal={part} at={at} />,
  forces: ({ part }) =>
    kindOf('forces', part.kind).plane && (
      <PartButton title="End what leaves its plane" act={() => pieceActions.edged(part.id)} />
    ),
  media: ({ part }) => (
    <PartButton
      title="Stir it with the pointer (hold S)"
      act={() => pieceActions.pointed(part.id)}
    />
  ),
};

const INPUTS = { sounds: SoundInput, pictures: CameraInput, performers: JointsInput };

/** Whether a live part has a take; null where it is not live. */
function isTaken(list: RecordedList, { kind, dials }: Part): boolean | null {
  const { records } = kindOf(list, kind);
  return records ? dials[records.take] !== '' : null;
}

/** The input of a live part. */
function Live({ list, part }: { list: RecordedList; part: Part }) {
  const Input = INPUTS[list];
  const taken = isTaken(list, part);
  return taken === null ? null : <Input part={part.id} taken={taken} />;
}

/** Puts a performer in the place of another, in all that reads their joints. */
function TakeOver({ performer }: { performer: string }) {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const others = piece.performers.filter(
    (p) => p.id !== performer && readersOf(piece, p.id).length > 0,
  );
  if (others.length === 0) return null;
  return (
    <Box sx={{ my: 0.75 }}>
      <PickOne
        title="Take over from"
        options={others}
        onPick={(from) => {
          dispatch(pieceActions.recast({ from, to: performer }));
        }}
      />
    </Box>
  );
}

/** Makes something beside the selected part that goes with it. */
function PartButton({ title, act }: { title: string; act: () => UnknownAction }) {
  const dispatch = useAppDispatch();
  return (
    <Button
      variant="outlined"
      size="small"
      onClick={() => dispatch(act())}
      sx={{ my: 0.75, py: 0, fontSize: 12 }}
    >
      {title}
    </Button>
  );
}
