import { Box, Button } from '@mui/material';
import { Fragment } from 'react';
import { chainOf, fedBy, sourcesOf, type Part } from '@vast-swarm/core/piece';
import { pieceActions } from '../../store/pieceSlice';
import type { Selection } from '../../store/selection';
import { useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { ownerOf, type Owner } from './owner';

/** Most parts that are shown of those it feeds. */
const MOST = 6;

/** The chain of a signal: its sources, itself, and those that are made from it, each a click away. */
export function ChainTags({ signal }: { signal: Part }) {
  const piece = usePiece();
  const before = chainOf(piece, [signal.id]).filter(({ id }) => id !== signal.id);
  const sounds = [...before, signal].flatMap((s) => sourcesOf(s, 'sounds'));
  const heard = piece.sounds.filter(({ id }) => sounds.includes(id));
  const tagOf = (list: 'sounds' | 'signals', { id, name }: Part): Owner => ({
    name,
    selection: { list, id },
  });
  const fed = new Map<string, Owner>();
  for (const { path } of fedBy(piece, signal.id)) {
    const owner = ownerOf(piece, path);
    fed.set(`${owner.selection.list} ${owner.selection.id}`, owner);
  }
  const after = [...fed.values()];
  return (
    <Box
      component="nav"
      aria-label="Chain"
      sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: '3px', fontSize: 12.5 }}
    >
      {heard.map((s) => (
        <Step key={s.id} {...tagOf('sounds', s)} />
      ))}
      {before.map((s) => (
        <Step key={s.id} {...tagOf('signals', s)} />
      ))}
      <Box component="span" aria-current="true" sx={{ color: COLOURS.amber, px: 0.5 }}>
        {signal.name}
      </Box>
      {after.length > 0 && <Arrow />}
      {after.slice(0, MOST).map((owner, i) => (
        <Fragment key={`${owner.selection.list} ${owner.selection.id}`}>
          {i > 0 && <span style={{ color: COLOURS.faint }}>·</span>}
          <Tag {...owner} />
        </Fragment>
      ))}
      {after.length > MOST && <span>and {after.length - MOST} more</span>}
    </Box>
  );
}

function Arrow() {
  return (
    <Box component="span" aria-hidden sx={{ color: COLOURS.faint }}>
      →
    </Box>
  );
}

function Step(owner: Owner) {
  return (
    <>
      <Tag {...owner} />
      <Arrow />
    </>
  );
}

function Tag({ name, selection }: { name: string; selection: Selection }) {
  const dispatch = useAppDispatch();
  return (
    <Button
      variant="outlined"
      onClick={() => dispatch(pieceActions.selected(selection))}
      sx={{
        py: 0,
        px: 0.75,
        minWidth: 0,
        fontSize: 12.5,
        fontWeight: 400,
        color: COLOURS.text,
        borderColor: COLOURS.line,
      }}
    >
      {name}
    </Button>
  );
}
