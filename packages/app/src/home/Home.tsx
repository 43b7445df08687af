import { Box, Button, Stack, Typography } from '@mui/material';
import { FolderOpen, Plus } from 'lucide-react';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { DEMO_SHOW, makePiece } from '@vast-swarm/core';
import { library, type StoredPiece } from '../data/db';
import { pieceOfZip, readPieceFile, unzipped } from '../data/files';
import { addPiece, followSeeded } from '../data/pieces';
import { isShow, takeShow } from '../data/shows';
import { noticed } from '../store/noticeSlice';
import { store, useAppDispatch } from '../store/store';
import { COLOURS } from '../theme';
import { FileChooser } from '../ui/FileChooser';
import { PieceCard } from './PieceCard';
import { ShowShelf } from './ShowShelf';

/** All pieces as they are stored, newest first; null until they are known. */
function usePieces(): StoredPiece[] | null {
  const [pieces, setPieces] = useState<StoredPiece[] | null>(null);
  const dispatch = useAppDispatch();
  useEffect(() => {
    const trouble = (error: unknown): void => {
      const why = error instanceof Error ? error.message : String(error);
      const message = `The browser's storage cannot be used (${why}). Pieces cannot be kept here; allow storage for this address and reload.`;
      dispatch(noticed({ key: 'storage', kind: 'wrong', message }));
    };
    // After the demo show is there: it must not push away a card that is about to be clicked.
    const all = (): Promise<StoredPiece[]> => library.pieces.orderBy('changed').reverse().toArray();
    return followSeeded(all, setPieces, trouble);
  }, [dispatch]);
  return pieces;
}

/** Takes in the piece or the show of a file; gives its name, with what is missing. */
async function takenFrom(file: File): Promise<string> {
  const entries = /\.zip$/i.test(file.name) ? await unzipped(file) : null;
  if (entries && isShow(entries)) {
    const { show, missing } = await takeShow(entries);
    if (missing.length === 0) return show.name;
    return `${show.name} (without ${missing.join(', ')}, which the zip does not have)`;
  }
  const piece = entries ? await pieceOfZip(entries) : await readPieceFile(file);
  await addPiece(piece);
  return piece.name;
}

/** Takes piece files in, one after the other, and tells what became of each. */
async function takeIn(files: Iterable<File>): Promise<void> {
  for (const file of files) {
    const key = `import ${file.name}`;
    try {
      const message = `${await takenFrom(file)} was imported from ${file.name}.`;
      store.dispatch(noticed({ key, kind: 'note', message }));
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      const message = `${file.name} was not imported.\n${why}`;
      store.dispatch(noticed({ key, kind: 'wrong', message }));
    }
  }
}

/** All pieces: the demo show, and the artist's own. */
export function Home() {
  const pieces = usePieces();
  const own = pieces?.filter((p) => !p.demo) ?? [];
  const demo = pieces?.filter((p) => p.demo) ?? [];
  return (
    <Box
      component="main"
      sx={{ overflowY: 'auto', flex: 1 }}
      onDragOver={(event: DragEvent) => {
        event.preventDefault();
      }}
      onDrop={(event: DragEvent) => {
        event.preventDefault();
        void takeIn(event.dataTransfer.files);
      }}
    >
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
          void takeIn(files);
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
