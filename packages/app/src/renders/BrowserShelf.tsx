import { Button } from '@mui/material';
import { Link } from 'react-router';
import { frameCount, STILLS } from '@vast-swarm/core/formats';
import { saveAs } from '../data/files';
import { Look } from '../render/Look';
import { paceOf } from '../render/pace';
import { fileOf, FORMATS, groupOf } from '../formats/settings';
import { browserQueue, type BrowserRender } from './browserQueue';
import { RenderRow, type Listed } from './RenderRow';
import { Shelf } from './Shelf';
import { useBrowserRenders } from './useBrowserRenders';

function listed({ stored, live, mine }: BrowserRender): Listed {
  const { id, piece, settings, state, done, problem } = stored;
  const { format, still, width, height, first } = settings;
  const group = groupOf(format);
  const form = group === 'frames' ? STILLS[still].title : FORMATS[format].title;
  const size = group === 'particles' ? '' : ` · ${String(width)} × ${String(height)}`;
  return {
    id,
    name: piece.name,
    about: `${form}${size}`,
    state,
    done,
    problem,
    ...(live ? paceOf(live) : { perSecond: 0, secondsLeft: null }),
    total: frameCount(settings),
    frame: done > 0 ? first + done - 1 : null,
    note: mine ? (live?.again ?? stored.note) : 'In another tab of this browser.',
  };
}

/** Renders of this browser: they go on when the page is loaded again. */
export function BrowserShelf() {
  const renders = useBrowserRenders();
  return (
    <Shelf
      title="In this browser"
      about="One after the other while a page is open. Frames go on where they were; a video begins anew."
      empty={renders.length > 0 ? null : 'Nothing here. Open a piece and choose Render.'}
      next={
        <Button component={Link} to="/" variant="outlined">
          Choose a piece
        </Button>
      }
    >
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
    </Shelf>
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
