import { Box, Button, Stack, Typography } from '@mui/material';
import { FolderOpen, Plus } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { Link, useNavigate } from 'react-router';
import { DEMO_SHOW, makePiece } from '@vast-swarm/core';
import { library, type StoredPiece } from '../data/db';
import { addPiece, followSeeded, unkeptListeners, unkeptPieces } from '../data/pieces';
import { takeFiles } from '../data/takeFiles';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../theme';
import { FileChooser } from '../ui/FileChooser';
import { PieceCard } from './PieceCard';
import { ShowShelf } from './ShowShelf';

/** Pieces where there is no storage: those of the demo show. */
const demoPieces = (): StoredPiece[] =>
  DEMO_SHOW.pieces.map(({ id, piece }) => ({ id, piece, created: 0, changed: 0, demo: id }));

/** All pieces, as they are stored or in this page alone, newest first; null until they are known. */
function usePieces(): StoredPiece[] | null {
  const [stored, setStored] = useState<StoredPiece[] | null>(null);
  const unkept = useSyncExternalStore(unkeptListeners.add, unkeptPieces);
  const dispatch = useAppDispatch();
  useEffect(() => {
    const trouble = (error: unknown): void => {
      const why = error instanceof Error ? error.message : String(error);
      const message = `The browser's storage cannot be used (${why}). Pieces cannot be kept here; allow storage for this address and reload.`;
      dispatch(noticed({ key: 'storage', kind: 'wrong', message }));
      setStored((known) => known ?? demoPieces());
    };
    // After the demo show is there: it must not push away a card that is about to be clicked.
    const all = (): Promise<StoredPiece[]> => library.pieces.orderBy('changed').reverse().toArray();
    return followSeeded(all, setStored, trouble);
  }, [dispatch]);
  return useMemo(() => {
    if (!stored) return null;
    const own = new Set(unkept.map((p) => p.id));
    return [...unkept, ...stored.filter((p) => !own.has(p.id))];
  }, [stored, unkept]);
}

/** All pieces: the demo show, and the artist's own. */
export function Home() {
  const pieces = usePieces();
  const own = pieces?.filter((p) => !p.demo) ?? [];
  const demo = pieces?.filter((p) => p.demo) ?? [];
  return (
    <Box component="main" sx={{ overflowY: 'auto', flex: 1 }}>
      <Box sx={{ maxWidth: 1180, mx: 'auto', px: 4, pb: 6 }}>
        <Head names={new Set(pieces?.map((p) => p.piece.name))} />
        {pieces && <ShowShelf pieces={pieces} />}
        {demo.length > 0 && (
          <Shelf
            title={DEMO_SHOW.name}
            about="Our own opening night of a harbour town. Open one, turn its dials, take it apart."
            pieces={demo}
          />
        )}
        {pieces && (
          <Shelf title="Your pieces" about="Kept in this browser as you work." pieces={own}>
            {own.length === 0 && (
              <Box
                sx={{
                  ...{ gridColumn: '1 / -1', border: `1px dashed ${COLOURS.line}` },
                  ...{ borderRadius: 1, p: 4, color: COLOURS.faint, textAlign: 'center' },
                }}
              >
                Nothing here yet. Begin with a new piece, duplicate one of the show, or drop a piece
                file here.
              </Box>
            )}
          </Shelf>
        )}
      </Box>
    </Box>
  );
}

/** @param names of the pieces that there are: a new one gets another */
function Head({ names }: { names: ReadonlySet<string> }) {
  const navigate = useNavigate();
  const chooser = useRef<HTMLInputElement>(null);
  const create = async (): Promise<void> => {
    let n = 1;
    while (names.has(`New piece ${String(n)}`)) n += 1;
    await navigate(`/piece/${await addPiece(makePiece(`New piece ${String(n)}`))}`);
  };
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1.5, pt: 4, pb: 3 }}>
      <Box sx={{ flex: 1 }}>
        <Typography variant="h1">Vast Swarm</Typography>
        <Typography color="text.secondary">
          Particle visuals, from a handful of dials to the wall of a warehouse.
        </Typography>
      </Box>
      <Button component={Link} to="/renders" color="inherit">
        Renders
      </Button>
      <Button component={Link} to="/stock" color="inherit">
        Stock
      </Button>
      <Button component={Link} to="/guide" color="inherit">
        Guide
      </Button>
      <Button
        variant="outlined"
        color="inherit"
        startIcon={<FolderOpen size={16} />}
        onClick={() => chooser.current?.click()}
      >
        Import
      </Button>
      <Button variant="contained" startIcon={<Plus size={16} />} onClick={() => void create()}>
        New piece
      </Button>
      <FileChooser
        ref={chooser}
        label="Piece files"
        accept=".json,.zip,application/json"
        multiple
        onChoose={(files) => {
          void takeFiles(files);
        }}
      />
    </Stack>
  );
}

interface ShelfProps {
  title: string;
  about: string;
  pieces: readonly StoredPiece[];
  children?: React.ReactNode;
}

function Shelf({ title, about, pieces, children }: ShelfProps) {
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ borderTop: `1px solid ${COLOURS.line}`, pt: 2, pb: 4 }}
    >
      <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1.5, mb: 1.5 }}>
        <Typography variant="h2">{title}</Typography>
        <Typography color="text.secondary" sx={{ fontSize: 13 }}>
          {about}
        </Typography>
      </Stack>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(330px, 1fr))',
          gap: 2.5,
        }}
      >
        {pieces.map((p) => (
          <PieceCard key={p.id} stored={p} />
        ))}
        {children}
      </Box>
    </Box>
  );
}
