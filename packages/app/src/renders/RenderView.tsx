import { Box, Button, FormControlLabel, Stack, Switch, Typography } from '@mui/material';
import { useEffect, useState, type ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Piece } from '@vast-swarm/core/piece';
import { loadPiece } from '../data/pieces';
import { browserQueue, stateOf } from './browserQueue';
import { useBrowserRenders } from './useBrowserRenders';
import { canBeOrdered, orderZip } from './orderOf';
import { orderRender } from './serverRenders';
import { serverWatch } from './serverWatch';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import type { RenderState } from '../render/oneRender';
import { RenderFields } from './RenderFields';
import { RenderProgress } from './RenderProgress';
import { askedOf, countOf, problemsOf, startingSettings, type Settings } from '../formats/settings';

export default function RenderView() {
  const { id } = useParams();
  const [piece, setPiece] = useState<Piece | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (!id) return;
    loadPiece(id)
      .then((p) => {
        if (p) setPiece(p);
        else setTrouble('There is no piece at this address.');
      })
      .catch((error: unknown) => {
        setTrouble(error instanceof Error ? error.message : String(error));
      });
  }, [id]);
  return (
    <Box component="main" sx={{ overflowY: 'auto', flex: 1 }}>
      <Box sx={{ maxWidth: 1120, mx: 'auto', px: 4, py: 3 }}>
        <Stack direction="row" sx={{ gap: 2, ml: -1 }}>
          <Way to={`/piece/${id ?? ''}`}>◂ Back to the workshop</Way>
          <Way to="/renders">All renders</Way>
        </Stack>
        {trouble && (
          <Typography role="alert" sx={{ mt: 3 }}>
            {trouble}
          </Typography>
        )}
        {piece && id && <RenderForm id={id} piece={piece} />}
      </Box>
    </Box>
  );
}

function Way({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Button component={Link} to={to} color="inherit" sx={{ color: COLOURS.faint }}>
      {children}
    </Button>
  );
}

/** A folder that the artist chooses; null where the chooser is closed again. */
async function chosenFolder(): Promise<FileSystemDirectoryHandle | null> {
  const picker = window as unknown as {
    showDirectoryPicker: (o: object) => Promise<FileSystemDirectoryHandle>;
  };
  return picker.showDirectoryPicker({ mode: 'readwrite' }).catch(() => null);
}

/** Puts a render into the list of this browser; gives its name, or null where no folder was chosen for it. */
async function begin(of: string, given: Piece, settings: Settings): Promise<string | null> {
  const { piece, ...asked } = askedOf(given, settings);
  if (settings.format !== 'folder') return browserQueue.add(of, piece, asked);
  const folder = await chosenFolder();
  return folder && browserQueue.add(of, piece, asked, folder);
}

function RenderForm({ id, piece }: { id: string; piece: Piece }) {
  const [settings, setSettings] = useState(() => startingSettings(piece));
  const renders = useBrowserRenders();
  const [chosen, setMine] = useState<string | null>(null);
  const mine = renders.find((r) => r.stored.id === chosen);
  // One of the piece that runs already.
  const running = renders.find((r) => r.mine && r.stored.of === id && r.stored.state === 'running');
  const found = running?.stored.id;
  if (chosen === null && found !== undefined) setMine(found);
  const state: RenderState = mine ? stateOf(mine) : { phase: 'idle' };
  const wrong = problemsOf(settings, piece);
  const busy = state.phase === 'running' || state.phase === 'waiting';
  const [atServer, setAtServer] = useState(false);
  const [sending, setSending] = useState(false);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const order = async (): Promise<void> => {
    setSending(true);
    try {
      await orderRender(await orderZip(piece, settings));
      void serverWatch.look();
      await navigate('/renders');
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      dispatch(noticed({ key: 'renders', kind: 'wrong', message }));
      setSending(false);
    }
  };
  const frames = settings.last - settings.first + 1;
  return (
    <>
      <Typography variant="h1" sx={{ mt: 1, mb: 2.5 }}>
        Render {piece.name}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '380px 1fr', gap: 5 }}>
        <Stack
          component="form"
          sx={{ gap: 0.75 }}
          onSubmit={(e) => {
            e.preventDefault();
            if (atServer && canBeOrdered(settings)) void order();
            else void begin(id, piece, settings).then((name) => name && setMine(name));
          }}
        >
          <RenderFields
            {...{ piece, settings, wrong }}
            running={busy}
            put={(part) => {
              setSettings((s) => ({ ...s, ...part }));
            }}
          />
          {canBeOrdered(settings) && (
            <FormControlLabel
              sx={{ ml: -0.5 }}
              control={
                <Switch
                  size="small"
                  checked={atServer}
                  disabled={busy}
                  onChange={(e) => {
                    setAtServer(e.target.checked);
                  }}
                />
              }
              label="Render at the server, this page may be closed"
            />
          )}
          <Stack direction="row" sx={{ gap: 1, mt: 1.5 }}>
            <Button
              type="submit"
              variant="contained"
              size="medium"
              disabled={busy || sending || Object.keys(wrong).length > 0}
            >
              Render {frames > 0 ? countOf(frames) : ''}
            </Button>
            {busy && (
              <Button
                color="inherit"
                size="medium"
                onClick={() => {
                  if (mine) browserQueue.act(mine.stored.id, 'cancel');
                }}
              >
                Cancel
              </Button>
            )}
          </Stack>
          <Typography sx={{ color: COLOURS.faint, fontSize: 12.5, mt: 2 }}>
            Rendered by the CPU engine, so that the pixels are the same on every machine and from
            the command line.
          </Typography>
        </Stack>
        <RenderProgress state={state} look={mine?.look ?? null} />
      </Box>
    </>
  );
}
