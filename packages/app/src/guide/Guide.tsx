import { Box, Button, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { catalogue, type Kind, type Shelf } from '@vast-swarm/core/kinds';
import type { PartList } from '@vast-swarm/core/piece';
import { sectionLists, wordsOf } from '../sections/sections';
import { COLOURS } from '../ui/theme';
import { KindIcon } from '../ui/KindIcon';
import { SHOW_KEYS } from '../show/showKeys';
import { Code, DialsHelp, KeysHelp } from './Keys';

/** Shelves that belong to no list of parts, behind the section that they go with. */
const BEHIND: Partial<Record<PartList, readonly (readonly [Shelf, string])[]>> = {
  swarms: [
    ['emitters', 'Emitters: where particles are born'],
    ['launches', 'Launches: how they set off'],
  ],
  lights: [
    ['cameras', 'Cameras: how the scene is seen'],
    ['backdrops', 'Backdrops: what is behind everything'],
  ],
  signals: [['bodies', 'Bodies: how one is drawn']],
};

/** All shelves of kinds with what is said of them. */
const shelves = (): (readonly [Shelf, string])[] =>
  sectionLists().flatMap((list) => [
    ...(list === 'swarms' ? [] : [[list, wordsOf(list).guide] as const]),
    ...(BEHIND[list] ?? []),
  ]);

/** The guide: the application, how to begin, the kinds of things, the keys. */
export default function Guide() {
  return (
    <Box component="main" sx={{ overflowY: 'auto', flex: 1 }}>
      <Box sx={{ maxWidth: 860, mx: 'auto', px: 4, py: 3 }}>
        <Button component={Link} to="/" color="inherit" sx={{ color: COLOURS.faint, ml: -1 }}>
          ◂ To the pieces
        </Button>
        <Typography variant="h1" sx={{ mt: 1 }}>
          Guide
        </Typography>
        <Part title="What it is">
          <p>
            Vast Swarm makes particle visuals. A <b>piece</b> holds <b>swarms</b> of particles; each
            swarm has an emitter that gives birth to them, a launch that sets them off and a look.{' '}
            <b>Forces</b> belong to the piece, and the influence grid tells how much each swarm
            feels each of them. The <b>finish</b> treats the drawn frame.
          </p>
          <p>
            The same piece with the same seed gives the same picture, on every machine, every time.
            Two engines draw it: the GPU where the browser offers one, else all processor cores.
            Renders always come from the processor, so that their pixels are the same everywhere.
          </p>
        </Part>
        <Part title="Begin">
          <ol>
            <li>Make a new piece and add a swarm with the + beside Swarms.</li>
            <li>Add Curl noise with the + beside Forces, and drag its strength.</li>
            <li>
              Select the swarm again. The sign beside a dial tells what fills it: one value, a
              spread, or a shape over life. Give Size a shape, and Colour a gradient.
            </li>
            <li>
              Drive a dial: the same sign offers signals (a wave, keyframes, noise) and formulas
              such as <Code>0.1 + 0.2 * lived</Code>.
            </li>
            <li>
              Drop a sound on the picture, or add a live input with the + beside Sounds and press
              Record. Add a Level beside Signals: its bench shows what it hears, with cuts to drag.
            </li>
            <li>
              Add a collider beside Surroundings, and drag its handles in the picture. The doctor,
              below the picture, tells why a swarm is not seen.
            </li>
            <li>Drag the picture to orbit, Shift-drag to pan, roll the wheel to move in.</li>
            <li>
              Give a swarm more bodies in its sheet: trails, links, mesh copies, pictures. Every
              treatment of the finish has a share and a mask that is drawn in the picture.
            </li>
            <li>
              Put a dial forward with the sign beside it: it stands in the tab Controls then, where
              it is moved while the piece plays, and cues take it from one place to another.
            </li>
            <li>Press Compare to see two versions at one frame, and take dials over.</li>
            <li>Press Render for a video or for frames.</li>
          </ol>
        </Part>
        <Part title="Dials">
          <DialsHelp />
        </Part>
        <Part title="Keys">
          <KeysHelp />
          <p>At the desk and the output of a show:</p>
          <KeysHelp groups={SHOW_KEYS} />
        </Part>
        {shelves().map(([shelf, title]) => (
          <Part key={shelf} title={title}>
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.25 }}>
              {catalogue[shelf].map((kind) => (
                <KindEntry key={kind.kind} kind={kind} shelf={shelf} />
              ))}
            </Box>
          </Part>
        ))}
      </Box>
    </Box>
  );
}

/** A kind with what it does, and how the engine draws what that is. */
function KindEntry({ kind, shelf }: { kind: Kind; shelf: Shelf }) {
  return (
    <Box sx={{ display: 'flex', gap: 1.25, alignItems: 'start' }}>
      <img
        src={`/made/kinds/${shelf}-${kind.kind}.png`}
        alt=""
        loading="lazy"
        width={128}
        height={72}
        style={{ borderRadius: 3, background: '#060b0c', flexShrink: 0 }}
      />
      <Box>
        <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center', color: COLOURS.glass }}>
          <KindIcon path={kind.icon} size={18} />
          <Box component="b" sx={{ color: COLOURS.text }}>
            {kind.title}
          </Box>
        </Box>
        <Box sx={{ color: COLOURS.faint }}>{kind.help}</Box>
      </Box>
    </Box>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mt: 3, lineHeight: 1.55, '& p': { my: 1 }, '& ol': { pl: 3 } }}>
      <Typography variant="h2" gutterBottom>
        {title}
      </Typography>
      {children}
    </Box>
  );
}
