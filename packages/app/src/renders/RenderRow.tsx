import { Box, Button, LinearProgress, Stack, Typography } from '@mui/material';
import { ArrowDown, ArrowUp, Pause, Play, RotateCcw, Square, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { canAct, isOpenRender, type JobAct, type RenderJob } from '@vast-swarm/core/formats';
import { duration } from '../render/duration';
import { COLOURS, MONO } from '../ui/theme';
import { IconAction } from '../ui/IconAction';

/** A render in a list, wherever it is made. */
export type Listed = Pick<
  RenderJob,
  'state' | 'done' | 'perSecond' | 'secondsLeft' | 'frame' | 'problem'
> & {
  id: string;
  name: string;
  /** Its format and size, in a few words. */
  about: string;
  total: number;
  /** Something that it says beside how far it is. */
  note: string | null;
};

interface Props {
  render: Listed;
  /** Whether anything can be done with it here. */
  isOurs?: boolean;
  look: ReactNode;
  /** How far it is in its stretches, where several work at it. */
  strip?: ReactNode;
  /** Links to its files. */
  made: ReactNode;
  onAct: (act: JobAct) => void;
  onRemove: () => void;
}

const ACTS: readonly { act: JobAct; label: string; icon: ReactNode }[] = [
  { act: 'sooner', label: 'Sooner', icon: <ArrowUp size={16} /> },
  { act: 'later', label: 'Later', icon: <ArrowDown size={16} /> },
  { act: 'pause', label: 'Pause', icon: <Pause size={16} /> },
  { act: 'go', label: 'Go on', icon: <Play size={16} /> },
  { act: 'cancel', label: 'Cancel', icon: <Square size={16} /> },
  { act: 'retry', label: 'Try again', icon: <RotateCcw size={16} /> },
];

const STATES: Record<RenderJob['state'], string> = {
  waiting: 'Waits',
  running: 'Renders',
  paused: 'Paused',
  done: 'Done',
  failed: 'Failed',
  cancelled: 'Cancelled',
};

const INK: Partial<Record<RenderJob['state'], string>> = {
  running: COLOURS.amber,
  done: COLOURS.glass,
  failed: COLOURS.coral,
};

export function RenderRow({ render, isOurs = true, look, strip, made, onAct, onRemove }: Props) {
  const { name, about, state, done, total } = render;
  const open = isOpenRender(render);
  return (
    <Box
      component="li"
      aria-label={name}
      sx={{
        display: 'grid',
        gridTemplateColumns: '128px 1fr auto',
        gap: 2,
        py: 1.5,
        alignItems: 'center',
        borderTop: `1px solid ${COLOURS.line}`,
      }}
    >
      <Box
        sx={{
          width: 128,
          height: 72,
          borderRadius: 0.5,
          overflow: 'hidden',
          background: COLOURS.sheet,
          '& img': { width: '100%', height: '100%' },
          '& img, & canvas': { objectFit: 'contain' },
        }}
      >
        {look}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Stack direction="row" sx={{ gap: 1.25, alignItems: 'baseline' }}>
          <Typography sx={{ fontWeight: 600 }} noWrap>
            {name}
          </Typography>
          <Typography sx={{ color: INK[state] ?? COLOURS.faint, fontSize: 13 }} role="status">
            {STATES[state]}
          </Typography>
          <Typography sx={{ color: COLOURS.faint, fontSize: 12.5 }} noWrap>
            {about}
          </Typography>
        </Stack>
        {open && !strip && (
          <LinearProgress
            variant="determinate"
            value={(100 * done) / total}
            color={state === 'running' ? 'primary' : 'inherit'}
            aria-label={`Frames of ${name}`}
            sx={{ my: 0.75 }}
          />
        )}
        {strip}
        <Typography sx={{ fontFamily: MONO, fontSize: 12.5, color: COLOURS.faint }}>
          {progressText(render)}
        </Typography>
        {render.problem && (
          <Typography role="alert" sx={{ color: COLOURS.coral, fontSize: 13, mt: 0.5 }}>
            {render.frame === null ? '' : `Behind frame ${String(render.frame)}: `}
            {render.problem}
          </Typography>
        )}
        {render.note && (
          <Typography sx={{ color: COLOURS.faint, fontSize: 12.5, mt: 0.5 }}>
            {render.note}
          </Typography>
        )}
      </Box>
      <Stack direction="row" sx={{ alignItems: 'center', gap: 0.25 }}>
        {made}
        {ACTS.filter(({ act }) => isOurs && canAct(render, act)).map(({ act, label, icon }) => (
          <IconAction
            key={act}
            label={label}
            onClick={() => {
              onAct(act);
            }}
          >
            {icon}
          </IconAction>
        ))}
        {!open && (
          <IconAction label="Remove" onClick={onRemove}>
            <Trash2 size={16} />
          </IconAction>
        )}
      </Stack>
    </Box>
  );
}

function progressText({ state, done, total, perSecond, secondsLeft }: Listed): string {
  const frames = `${String(done)} / ${String(total)} frames`;
  if (state !== 'running' || perSecond === 0) return frames;
  const left = secondsLeft === null ? '' : ` · ${duration(secondsLeft)} left`;
  return `${frames} · ${perSecond.toFixed(perSecond < 10 ? 1 : 0)} a second${left}`;
}

/** Something of a render that is saved. */
export function SaveLink({ href, children }: { href: string; children: ReactNode }) {
  return (
    <Button component="a" href={href} download variant="outlined" color="inherit" sx={{ mr: 1 }}>
      {children}
    </Button>
  );
}
