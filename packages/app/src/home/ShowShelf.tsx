import { Box, Button, ButtonBase, Stack, Typography } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { Download, Plus, Trash2 } from 'lucide-react';
import { Link, useNavigate } from 'react-router';
import { makeShow } from '@vast-swarm/core/show';
import { library, type StoredPiece, type StoredShow } from '../data/db';
import { addShow, exportShow, removeShow } from '../data/shows';
import { useLive } from '../data/useLive';
import { secondsOf, clock } from '../desk/words';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { PieceStill } from './PieceStill';

interface Shelved {
  shows: StoredShow[];
  /** Those of all their entries. */
  pieces: StoredPiece[];
}

const NOTHING: Shelved = { shows: [], pieces: [] };

/** All shows, newest first, with their pieces. */
async function allShows(): Promise<Shelved> {
  const shows = await library.shows.orderBy('changed').reverse().toArray();
  const ids = new Set(shows.flatMap((s) => s.show.entries.map((e) => e.piece)));
  const pieces = await library.pieces.bulkGet([...ids]);
  return { shows, pieces: pieces.filter((p) => p !== undefined) };
}

/** The most pictures of pieces on one card. */
const PICTURES = 8;

/**
 * Shows: pieces put together for a night.
 *
 * @param held pieces that are not as the storage has them
 */
export function ShowShelf({ held }: { held: readonly StoredPiece[] }) {
  const { shows, pieces: stored } = useLive(allShows, NOTHING);
  const pieces = [...stored, ...held];
  const navigate = useNavigate();
  const create = async (): Promise<void> => {
    const names = new Set(shows.map((s) => s.show.name));
    let n = 1;
    while (names.has(`New show ${String(n)}`)) n += 1;
    await navigate(`/show/${await addShow(makeShow(`New show ${String(n)}`))}`);
  };
  return (
    <Box
      component="section"
      aria-label="Shows"
      sx={{ borderTop: `1px solid ${COLOURS.line}`, pt: 2, pb: 4 }}
    >
      <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1.5, mb: 1.5 }}>
        <Typography variant="h2">Shows</Typography>
        <Typography color="text.secondary" sx={{ fontSize: 13, flex: 1 }}>
          Pieces in order for one night, run from a desk, seen on an output.
        </Typography>
        <Button color="inherit" startIcon={<Plus size={15} />} onClick={() => void create()}>
          New show
        </Button>
      </Stack>
      <Stack sx={{ gap: 1.25 }}>
        {shows.map((show) => (
          <ShowCard key={show.id} stored={show} pieces={pieces} />
        ))}
        {shows.length === 0 && (
          <Box sx={{ color: COLOURS.faint }}>
            No show yet. A new one begins with its first piece.
          </Box>
        )}
      </Stack>
    </Box>
  );
}

function ShowCard({ stored, pieces }: { stored: StoredShow; pieces: readonly StoredPiece[] }) {
  const { id, show } = stored;
  const dispatch = useAppDispatch();
  const known = new Map(pieces.map((p) => [p.id, p]));
  const found = show.entries.map((entry) => ({ entry, piece: known.get(entry.piece) }));
  const total = found.reduce(
    (s, { entry, piece }) => s + (piece ? secondsOf(entry, piece.piece) : 0),
    0,
  );
  const count = show.entries.length;
  const about = `${String(count)} ${count === 1 ? 'piece' : 'pieces'} · ${clock(total)}`;
  const remove = async (): Promise<void> => {
    await removeShow(stored);
    const message = `${show.name} was deleted; its pieces are still there.`;
    dispatch(noticed({ key: 'deleted', kind: 'note', message, action: 'restoreShow' }));
  };
  return (
    <Stack
      component="article"
      direction="row"
      aria-label={show.name}
      sx={{ alignItems: 'center', gap: 1, bgcolor: COLOURS.sheet, borderRadius: 1, pr: 1 }}
    >
      <ButtonBase
        component={Link}
        to={`/show/${id}`}
        sx={{
          flex: 1,
          minWidth: 0,
          justifyContent: 'flex-start',
          gap: 2,
          p: 1,
          borderRadius: 1,
          border: '1px solid transparent',
          '&:hover': { borderColor: COLOURS.amber },
        }}
      >
        <Box sx={{ width: 210, flexShrink: 0, pl: 1 }}>
          <Box sx={{ fontWeight: 600, fontSize: 15 }}>
            <span style={visuallyHidden}>Open </span>
            {show.name}
          </Box>
          <Box sx={{ color: COLOURS.faint, fontSize: 12, fontFamily: MONO }}>{about}</Box>
        </Box>
        <Stack direction="row" sx={{ gap: 0.5, overflow: 'hidden' }} aria-hidden>
          {found.slice(0, PICTURES).map(({ entry, piece }) => (
            <Small key={entry.id} piece={piece} />
          ))}
          {count > PICTURES && (
            <Box sx={{ color: COLOURS.faint, alignSelf: 'center', pl: 1, whiteSpace: 'nowrap' }}>
              and {count - PICTURES} more
            </Box>
          )}
        </Stack>
      </ButtonBase>
      <IconAction label={`Export ${show.name}`} onClick={() => void exportShow(show)}>
        <Download size={15} />
      </IconAction>
      <IconAction label={`Delete ${show.name}`} onClick={() => void remove()}>
        <Trash2 size={15} />
      </IconAction>
    </Stack>
  );
}

/** Pixels of a small picture. */
const SMALL = { width: 84, height: 47, borderRadius: 3, background: '#03080a' };

function Small({ piece }: { piece: StoredPiece | undefined }) {
  return (
    <PieceStill stored={piece} style={SMALL}>
      <div style={SMALL} />
    </PieceStill>
  );
}
