import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { saveAs } from '../data/files';
import { COLOURS, MONO } from '../ui/theme';
import { useBlobSource } from '../ui/useBlobSource';
import { duration } from '../render/duration';
import type { RenderState } from '../render/oneRender';
import { Look } from '../render/Look';
import { paceOf } from '../render/pace';
import { countOf, fileOf } from '../formats/settings';

export function RenderProgress({ state, look }: { state: RenderState; look: ImageBitmap | null }) {
  return (
    <Box aria-label="Render progress" role="region">
      {state.phase === 'idle' && (
        <Box
          sx={{
            border: `1px dashed ${COLOURS.line}`,
            borderRadius: 1,
            p: 5,
            color: COLOURS.faint,
            textAlign: 'center',
          }}
        >
          The frames appear here as they are made.
        </Box>
      )}
      {look &&
        state.phase !== 'idle' &&
        !(state.phase === 'done' && state.blob?.type.startsWith('video')) && (
          <Box sx={{ mb: 1.5, border: `1px solid ${COLOURS.line}` }}>
            <Look bitmap={look} />
          </Box>
        )}
      {state.phase === 'running' && <Running state={state} />}
      {state.phase === 'waiting' && (
        <Typography role="status">It waits for the renders before it.</Typography>
      )}
      {state.phase === 'paused' && (
        <Typography role="status">
          Paused after {countOf(state.done)}. It goes on from the list of renders.
        </Typography>
      )}
      {state.phase === 'cancelled' && (
        <Typography role="status">
          Cancelled after {state.done} frames. Nothing was kept, unless frames went into a folder.
        </Typography>
      )}
      {state.phase === 'failed' && (
        <Typography role="alert" sx={{ color: COLOURS.coral }}>
          The render failed after {state.done} frames: {state.message}
        </Typography>
      )}
      {state.phase === 'done' && <Done state={state} />}
    </Box>
  );
}

function Running({ state }: { state: RenderState & { phase: 'running' } }) {
  const { done, total, warming, building, again } = state;
  const left = paceOf(state).secondsLeft;
  return (
    <>
      <LinearProgress
        variant={warming > 0 && !building ? 'indeterminate' : 'determinate'}
        value={building ? 100 * building.part : (100 * done) / total}
        aria-label="Frames rendered"
      />
      <Typography role="status" sx={{ mt: 1, fontFamily: MONO, fontSize: 13 }}>
        {building
          ? `Building ${building.name}: ${String(Math.round(100 * building.part))} %`
          : warming > 0
            ? `${String(warming)} frames to simulate before the first`
            : `${String(done)} / ${String(total)} frames${left === null ? '' : ` · ${duration(left)} left`}`}
      </Typography>
      {again && (
        <Typography role="alert" sx={{ mt: 1, color: COLOURS.coral }}>
          {again}. It was begun anew.
        </Typography>
      )}
    </>
  );
}

function Done({ state }: { state: RenderState & { phase: 'done' } }) {
  const { blob, frames, seconds, note, job } = state;
  const name = fileOf(job.piece, job);
  const source = useBlobSource(blob);
  return (
    <>
      {blob?.type.startsWith('video') && (
        <video
          ref={source}
          controls
          loop
          aria-label="The rendered video"
          style={{ width: '100%', display: 'block', marginBottom: 12 }}
        />
      )}
      <Typography role="status" sx={{ mb: 1 }}>
        {countOf(frames)} in {duration(seconds)}
        {blob ? `, ${(blob.size / 2 ** 20).toFixed(1)} MB.` : ', all in the folder.'}
      </Typography>
      {note && (
        <Typography role="alert" sx={{ mb: 1, color: COLOURS.coral }}>
          {note}
        </Typography>
      )}
      {blob && (
        <Button
          variant="contained"
          size="medium"
          onClick={() => {
            saveAs(blob, name);
          }}
        >
          Save {name}
        </Button>
      )}
    </>
  );
}
