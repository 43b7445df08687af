import { Box, Button, Stack, Typography } from '@mui/material';
import { FolderOpen, Plus } from 'lucide-react';
import { useMemo, useRef } from 'react';
import { Link, useNavigate } from 'react-router';
import { DEMO_NAME } from '@vast-swarm/core/content/name';
import { makePiece } from '@vast-swarm/core/piece';
import { addPiece } from '../data/pieces';
import { takeFiles } from '../shell/drops';
import { COLOURS } from '../ui/theme';
import { Empty } from '../ui/Empty';
import { FileChooser } from '../ui/FileChooser';
import { PieceShelf } from './PieceShelf';
import { ShowShelf } from './ShowShelf';
import { usePieces } from './usePieces';

/** All pieces: the demo show, and the artist's own. */
export function Home() {
  const { rows, held } = usePieces();
  const own = useMemo(() => rows?.filter((p) => !p.demo) ?? [], [rows]);
  const demo = useMemo(() => rows?.filter((p) => p.demo) ?? [], [rows]);
  const navigate = useNavigate();
  const create = async (): Promise<void> => {
    const names = new Set(rows?.map((p) => p.name));
    let n = 1;
    while (names.has(`New piece ${String(n)}`)) n += 1;
    await navigate(`/piece/${await addPiece(makePiece(`New piece ${String(n)}`))}`);
  };
  return (
    <Box component="main" sx={{ overflowY: 'auto', flex: 1 }}>
      <Box sx={{ maxWidth: 1180, mx: 'auto', px: 4, pb: 6 }}>
        <Head onNew={() => void create()} />
        {rows && <ShowShelf held={held} />}
        {demo.length > 0 && (
          <PieceShelf
            title={DEMO_NAME}
            about="Our own opening night of a harbour town. Open one, turn its dials, take it apart."
            rows={demo}
            held={held}
          />
        )}
        {rows && (
          <PieceShelf
            title="Your pieces"
            about="Kept in this browser as you work."
            rows={own}
            held={held}
            finding
            empty={
              <Empty
                action={
                  <Button variant="outlined" onClick={() => void create()}>
                    Begin with a new one
                  </Button>
                }
                sx={{
                  gridColumn: '1 / -1',
                  border: `1px dashed ${COLOURS.line}`,
                  borderRadius: 1,
                  p: 4,
                  textAlign: 'center',
                }}
              >
                Nothing here yet. You can also duplicate one of the show, or drop a piece file here.
              </Empty>
            }
          />
        )}
      </Box>
    </Box>
  );
}

function Head({ onNew }: { onNew: () => void }) {
  const chooser = useRef<HTMLInputElement>(null);
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
      <Button variant="contained" startIcon={<Plus size={16} />} onClick={onNew}>
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
