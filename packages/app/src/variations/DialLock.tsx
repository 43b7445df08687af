import { IconButton } from '@mui/material';
import { Lock, LockOpen } from 'lucide-react';
import { addressOf } from '@vast-swarm/core/piece';
import { useApp, useAppDispatch } from '../store/store';
import { toolActions } from '../store/toolSlice';
import { COLOURS } from '../ui/theme';

interface Props {
  title: string;
  /** Where the dial stands in the piece. */
  path: (string | number)[];
}

/** While variations are shown, a dial can be kept as it is in all of them. */
export function DialLock(props: Props) {
  const varying = useApp(({ tools }) => tools.varying !== null);
  return varying ? <Lockable {...props} /> : null;
}

function Lockable({ title, path }: Props) {
  const dispatch = useAppDispatch();
  const address = useApp(({ piece }) => addressOf(piece.piece!, path));
  const locked = useApp(({ tools }) => address !== null && tools.locked.includes(address));
  if (address === null) return null;
  return (
    <IconButton
      aria-label={`Lock ${title}`}
      aria-pressed={locked}
      onClick={() => dispatch(toolActions.lockTurned(address))}
      sx={{ p: '2px', mr: '2px', color: locked ? COLOURS.amber : COLOURS.faint }}
    >
      {locked ? <Lock size={11} /> : <LockOpen size={11} />}
    </IconButton>
  );
}
