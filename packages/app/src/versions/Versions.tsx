import { Box, Button, IconButton, Popover, Stack } from '@mui/material';
import { Columns2, History, Trash2, Undo2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { PieceError, validatePiece } from '@vast-swarm/core/piece';
import { library, type Snapshot } from '../data/db';
import { keepSnapshot } from '../data/snapshots';
import { whyNotKept } from '../data/trouble';
import { useLive } from '../data/useLive';
import { useEngine } from '../engine/EngineContext';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store, useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { useBlobSource } from '../ui/useBlobSource';

const NONE: Snapshot[] = [];

/** Versions of the open piece that were kept, newest first: by hand, and where it had changed for ten minutes. */
export function Versions({ id }: { id: string }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <IconAction
        label="Versions that were kept"
        onClick={(e) => {
          setAnchor(e.currentTarget);
        }}
      >
        <History size={16} />
      </IconAction>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      >
        {anchor && <List id={id} />}
      </Popover>
    </>
  );
}

function List({ id }: { id: string }) {
  const query = useMemo(
    () => (): Promise<Snapshot[]> =>
      library.snapshots.where('of').equals(id).reverse().sortBy('made'),
    [id],
  );
  const versions = useLive(query, NONE);
  const engine = useEngine();
  const dispatch = useAppDispatch();
  const keep = async (): Promise<void> => {
    const thumb = await engine.thumb().catch(() => null);
    await keepSnapshot(id, store.getState().piece.piece!, { thumb }).catch((error: unknown) => {
      const message = `The version was not kept: the browser's storage ${whyNotKept(error)}.`;
      dispatch(noticed({ key: 'version', kind: 'wrong', message }));
    });
  };
  return (
    <Box component="section" aria-label="Versions" sx={{ width: 400, maxHeight: 560, p: 1.5 }}>
      <Stack direction="row" sx={{ alignItems: 'center', mb: 1 }}>
        <Box sx={{ flex: 1, color: COLOURS.faint, fontSize: 12.5 }}>
          Kept by hand, and when something has changed for ten minutes.
        </Box>
        <Button variant="outlined" onClick={() => void keep()}>
          Keep now
        </Button>
      </Stack>
      {versions.length === 0 && (
        <Box sx={{ color: COLOURS.faint }}>No version has been kept yet.</Box>
      )}
      <Box component="ul" sx={{ p: 0, m: 0, listStyle: 'none' }}>
        {versions.map((version) => (
          <Row key={version.id} id={id} version={version} />
        ))}
      </Box>
    </Box>
  );
}

function Row({ id, version }: { id: string; version: Snapshot }) {
  const { name, made, thumb, auto } = version;
  const dispatch = useAppDispatch();
  const picture = useBlobSource(thumb);
  const back = (): void => {
    try {
      const piece = validatePiece(version.piece);
      dispatch(pieceActions.replaced({ piece, label: `Back to ${name}` }));
    } catch (error) {
      if (!(error instanceof PieceError)) throw error;
      const message = `${name} cannot be read: ${error.message}`;
      dispatch(noticed({ key: 'version', kind: 'wrong', message }));
    }
  };
  const when = new Date(made).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  return (
    <Stack component="li" direction="row" sx={{ alignItems: 'center', gap: 1, py: 0.5 }}>
      <Box sx={{ width: 112, height: 63, flexShrink: 0, bgcolor: '#060b0c' }}>
        {thumb && (
          <img
            ref={picture}
            alt=""
            style={{ width: '100%', height: '100%', objectFit: 'cover', display: 'block' }}
          />
        )}
      </Box>
      <Box sx={{ flex: 1, minWidth: 0, fontSize: 13 }}>
        <Box>{name}</Box>
        <Box sx={{ color: COLOURS.faint, fontSize: 11.5 }}>
          {when}
          {auto ? '' : ' · by hand'}
        </Box>
      </Box>
      <IconButton
        aria-label={`Go back to ${name}`}
        title="Go back to it; undo brings this one back"
        onClick={back}
      >
        <Undo2 size={15} />
      </IconButton>
      <IconButton
        component={Link}
        to={`/piece/${id}/compare?with=${version.id}`}
        aria-label={`Compare with ${name}`}
        title="Compare"
      >
        <Columns2 size={15} />
      </IconButton>
      <IconButton
        aria-label={`Delete ${name}`}
        title="Delete"
        onClick={() => void library.snapshots.delete(version.id)}
      >
        <Trash2 size={15} />
      </IconButton>
    </Stack>
  );
}
