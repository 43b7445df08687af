import { Box, Button, Typography } from '@mui/material';
import { saveAs } from '../data/files';
import { Look } from '../render/Look';
import { countOfSettings, fileOf, FORMATS, groupOf, STILL_TITLES } from '../render/settings';
import { COLOURS } from '../theme';
import { browserQueue, type BrowserRender } from './browserQueue';
import { RenderRow, type Listed } from './RenderRow';
import { useBrowserRenders } from './useBrowserRenders';

function listed({ stored, live, mine }: BrowserRender): Listed {
  const { id, piece, settings, state, done, problem } = stored;
  const { format, still, width, height, first } = settings;
  const group = groupOf(format);
  const form = group === 'frames' ? STILL_TITLES[still] : FORMATS[format].title;
  const size = group === 'particles' ? '' : ` · ${String(width)} × ${String(height)}`;
  const total = countOfSettings(settings);
  const made = live ? live.done - live.there : 0;
  const perSecond = live && made > 0 ? made / live.seconds : 0;
  return {
    ...{ id, name: piece.name, about: `${form}${size}`, state, total, done, problem, perSecond },
    secondsLeft: perSecond > 0 ? (total - done) / perSecond : null,
    frame: done > 0 ? first + done - 1 : null,
    note: mine ? (live?.again ?? stored.note) : 'In another tab of this browser.',
  };
}

/** Renders of this browser: they go on when the page is loaded again. */
export function BrowserShelf() {
  const renders = useBrowserRenders();
  return (
    <Box component="section" aria-label="In this browser" sx={{ mt: 3 }}>
      <Typography variant="h2">In this browser</Typography>
      <Typography sx={{ color: COLOURS.faint, fontSize: 13, mb: 1 }}>
        One after the other while a page is open. Frames go on where they were; a video begins anew.
      </Typography>
      {renders.length === 0 && (
        <Typography sx={{ color: COLOURS.faint, py: 2 }}>
          Nothing here. Open a piece and choose Render.
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {renders.map((render) => (
          <RenderRow
            key={render.stored.id}
            render={listed(render)}
            isOurs={render.mine}
            look={render.look && <Look bitmap={render.look} />}
            made={<SaveMade {...render} />}
            onAct={(act) => {
              browserQueue.act(render.stored.id, act);
            }}
            onRemove={() => {
              browserQueue.remove(render.stored.id);
            }}
          />
        ))}
      </Box>
    </Box>
  );
}

function SaveMade({ stored }: BrowserRender) {
  const { blob, piece, settings } = stored;
  if (!blob) return null;
  return (
    <Button
      variant="outlined"
      color="inherit"
      sx={{ mr: 1 }}
      onClick={() => {
        saveAs(blob, fileOf(piece, settings));
      }}
    >
      Save
    </Button>
  );
}
