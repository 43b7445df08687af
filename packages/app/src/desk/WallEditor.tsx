import { Box, Button, Stack, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import {
  makePanel,
  makeWall,
  parseWall,
  pixelsOf,
  universesOf,
  wallText,
  type Panel,
  type Wall,
} from '@vast-swarm/core/show';
import { saveAs } from '../data/files';
import { newId } from '../data/tab';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { FileChooser } from '../ui/FileChooser';
import { PanelSettings } from './PanelSettings';
import { Labelled } from './Labelled';
import { WallMap } from './WallMap';
import { ShowNumber } from './ShowNumber';

interface Props {
  wall: Wall | null;
  onPut: (wall: Wall | null, name: string) => void;
}

/** The pixel map of a show's wall: panels that are dragged, and what the wall may do. */
export function WallEditor({ wall, onPut }: Props) {
  const chooser = useRef<HTMLInputElement>(null);
  const dispatch = useAppDispatch();
  const take = async (file: File): Promise<void> => {
    try {
      onPut(parseWall(await file.text()), 'taken');
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      const message = `${file.name} was not taken.\n${why}`;
      dispatch(noticed({ key: 'wall', kind: 'wrong', message }));
    }
  };
  return (
    <Box component="section" aria-label="Wall" sx={{ pt: 4, pb: 2 }}>
      <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1.5, mb: 1 }}>
        <Typography variant="h2">Wall</Typography>
        <Box sx={{ color: COLOURS.faint, fontSize: 13, flex: 1 }}>
          {wall
            ? `${pixelsOf(wall).toLocaleString('en-GB')} pixels in ${String(universesOf(wall).length)} universes`
            : 'A wall of LED panels that shows what is seen, beside the output.'}
        </Box>
        {!wall && (
          <Button
            variant="outlined"
            onClick={() => {
              onPut(makeWall([makePanel(newId())]), 'added');
            }}
          >
            Add a wall
          </Button>
        )}
        <Button color="inherit" onClick={() => chooser.current!.click()}>
          Take a pixel map…
        </Button>
        {wall && (
          <>
            <Button
              color="inherit"
              onClick={() => {
                saveAs(new Blob([wallText(wall)], { type: 'application/json' }), 'wall.json');
              }}
            >
              Save the pixel map
            </Button>
            <Button
              color="inherit"
              onClick={() => {
                onPut(null, 'gone');
              }}
            >
              Remove
            </Button>
          </>
        )}
        <FileChooser
          ref={chooser}
          label="Pixel map"
          accept=".json,application/json"
          onChoose={([file]) => {
            void take(file);
          }}
        />
      </Stack>
      {wall && <Panels {...{ wall, onPut }} />}
    </Box>
  );
}

function Panels({ wall, onPut }: { wall: Wall; onPut: Props['onPut'] }) {
  const [chosen, setChosen] = useState(wall.panels[0]?.id ?? '');
  const panel = wall.panels.find((p) => p.id === chosen);
  const put = (part: Partial<Wall>, name: string): void => {
    onPut({ ...wall, ...part }, name);
  };
  const setPanel = (changed: Panel, name: string): void => {
    const panels = wall.panels.map((p) => (p.id === changed.id ? changed : p));
    put({ panels }, `${changed.id} ${name}`);
  };
  const number = (
    key: 'width' | 'height' | 'universe' | 'level' | 'gamma' | 'watts' | 'limit',
    label: string,
    range: [min: number, max: number],
    unit = '',
  ) => (
    <Labelled label={label}>
      <ShowNumber
        {...{ label, range, unit }}
        whole={key === 'universe'}
        value={wall[key]}
        onChange={(value) => {
          put({ [key]: value }, key);
        }}
      />
    </Labelled>
  );
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 330px', gap: 3 }}>
      <Box>
        <WallMap {...{ wall, chosen }} onChoose={setChosen} onMove={setPanel} />
        <Stack direction="row" sx={{ gap: 2.5, flexWrap: 'wrap', pt: 1.5 }}>
          {number('width', 'Covers', [0.1, 1000], 'm')}
          {number('height', 'by', [0.1, 1000], 'm')}
          {number('universe', 'First universe', [1, 63_999])}
          {number('level', 'Level', [0, 1])}
          {number('gamma', 'Gamma', [0.2, 4])}
          {number('watts', 'A white pixel takes', [0, 100], 'W')}
          {number('limit', 'All together at most', [0, 1e7], 'W')}
        </Stack>
      </Box>
      <Box>
        <Stack direction="row" sx={{ gap: 1, mb: 1 }}>
          <Button
            variant="outlined"
            onClick={() => {
              const id = newId();
              const name = `Panel ${String(wall.panels.length + 1)}`;
              const middle = { x: wall.width / 2, y: wall.height / 2 };
              put({ panels: [...wall.panels, makePanel(id, { name, ...middle })] }, 'added');
              setChosen(id);
            }}
          >
            Add a panel
          </Button>
          {panel && (
            <Button
              color="inherit"
              onClick={() => {
                put({ panels: wall.panels.filter((p) => p.id !== chosen) }, 'removed');
              }}
            >
              Remove it
            </Button>
          )}
        </Stack>
        {panel ? (
          <PanelSettings panel={panel} onChange={setPanel} />
        ) : (
          <Box sx={{ color: COLOURS.faint }}>Press a panel to see what it is.</Box>
        )}
      </Box>
    </Box>
  );
}
