import { Box, Button, FormControlLabel, Stack, Switch, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { sentFiles, type Piece } from '@vast-swarm/core';
import { filesOf } from '../data/stock';
import { loadPiece } from '../data/pieces';
import { canBeOrdered, orderZip } from '../renders/orderOf';
import { orderRender } from '../renders/serverRenders';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../theme';
import { LeaveRender } from './LeaveRender';
import type { Job } from './messages';
import { RenderFields } from './RenderFields';
import { RenderProgress } from './RenderProgress';
import { askedOf, countOf, problemsOf, startingSettings, type Settings } from './settings';
import { useRender } from './useRender';

export default function RenderView() {
  const { id } = useParams();
  const [piece, setPiece] = useState<Piece | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [running, setRunning] = useState(false);
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
        <LeaveRender to={`/piece/${id ?? ''}`} running={running} />
        {trouble && (
          <Typography role="alert" sx={{ mt: 3 }}>
            {trouble}
          </Typography>
        )}
        {piece && <RenderForm piece={piece} onRunning={setRunning} />}
      </Box>
    </Box>
  );
}

/** A folder that the artist chooses; null where the chooser is closed again. */
async function chosenFolder(): Promise<FileSystemDirectoryHandle | null> {
  const picker = window as unknown as {
    showDirectoryPicker: (o: object) => Promise<FileSystemDirectoryHandle>;
  };
  return picker.showDirectoryPicker({ mode: 'readwrite' }).catch(() => null);
}

async function jobOf(piece: Piece, settings: Settings): Promise<Job | null> {
  const job: Job = { ...askedOf(piece, settings), files: new Map() };
  if (settings.format === 'folder') {
    const folder = await chosenFolder();
    if (!folder) return null;
    job.folder = folder;
  }
  return { ...job, files: sentFiles(await filesOf(piece.stock)) };
}

interface FormProps {
  piece: Piece;
  onRunning: (running: boolean) => void;
}

function RenderForm({ piece, onRunning }: FormProps) {
  const [settings, setSettings] = useState(() => startingSettings(piece));
  const { state, look, start, cancel } = useRender();
  const wrong = problemsOf(settings, piece);
  const running = state.phase === 'running';
  useEffect(() => {
    onRunning(running);
  }, [running, onRunning]);
  const [atServer, setAtServer] = useState(false);
  const [sending, setSending] = useState(false);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const order = async (): Promise<void> => {
    setSending(true);
    try {
      await orderRender(await orderZip(piece, settings));
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
            else void jobOf(piece, settings).then((job) => job && start(job));
          }}
        >
          <RenderFields
            {...{ piece, settings, wrong, running }}
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
                  disabled={running}
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
              disabled={running || sending || Object.keys(wrong).length > 0}
            >
              Render {frames > 0 ? countOf(frames) : ''}
            </Button>
            {running && (
              <Button color="inherit" size="medium" onClick={cancel}>
                Cancel
              </Button>
            )}
          </Stack>
          <Typography sx={{ color: COLOURS.faint, fontSize: 12.5, mt: 2 }}>
            Rendered by the CPU engine, so that the pixels are the same on every machine and from
            the command line.
          </Typography>
        </Stack>
        <RenderProgress state={state} look={look} />
      </Box>
    </>
  );
}
