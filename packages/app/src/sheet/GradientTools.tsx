import { Box, Divider, IconButton, Menu, MenuItem, Tooltip } from '@mui/material';
import { Palette } from 'lucide-react';
import { useRef, useState } from 'react';
import { GRADIENT_SET, gradientAt, hexOf, type Rgb, type Stop } from '@vast-swarm/core/feeds';
import { gradientToCpt, gradientToSvg, readGradient } from '@vast-swarm/core/formats';
import { saveAs } from '../data/files';
import { noticed } from '../store/noticeSlice';
import { useAppDispatch } from '../store/store';
import { FileChooser } from '../ui/FileChooser';

/** A gradient as a strip of colours; light over 1 is shown as its own colour at full strength. */
export function gradientCss(stops: readonly Stop[]): string {
  const samples = Array.from({ length: 33 }, (_, i) => {
    const rgb = gradientAt(stops, i / 32);
    const most = Math.max(1, ...rgb);
    return hexOf(rgb.map((c) => c / most) as Rgb);
  });
  return `linear-gradient(90deg, ${samples.join(',')})`;
}

interface Props {
  label: string;
  stops: Stop[];
  onChange: (stops: Stop[]) => void;
}

/** Ready gradients, and gradients from and to files. */
export function GradientTools({ label, stops, onChange }: Props) {
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const take = async (file: File): Promise<void> => {
    try {
      onChange(readGradient(file.name, await file.text()));
    } catch (error) {
      const message = `${file.name} was not taken. ${(error as Error).message}`;
      dispatch(noticed({ key: 'gradient', kind: 'wrong', message }));
    }
  };
  const close = (): void => {
    setAnchor(null);
  };
  const save = (name: string, text: string, type: string): void => {
    close();
    saveAs(new Blob([text], { type }), name);
  };
  return (
    <>
      <Tooltip title="Ready gradients, and files">
        <IconButton
          aria-label={`${label}: ready gradients and files`}
          aria-haspopup="menu"
          onClick={(event) => {
            setAnchor(event.currentTarget);
          }}
          sx={{ p: '2px' }}
        >
          <Palette size={14} />
        </IconButton>
      </Tooltip>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        {GRADIENT_SET.map((g) => (
          <MenuItem
            key={g.name}
            onClick={() => {
              close();
              onChange(g.stops);
            }}
            sx={{ gap: 1.5 }}
          >
            <Box
              sx={{ width: 90, height: 14, borderRadius: 0.5, background: gradientCss(g.stops) }}
            />
            {g.name}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem
          onClick={() => {
            close();
            chooser.current?.click();
          }}
        >
          From a file (SVG, CPT)…
        </MenuItem>
        <MenuItem
          onClick={() => {
            save('gradient.svg', gradientToSvg(label, stops), 'image/svg+xml');
          }}
        >
          Save as SVG
        </MenuItem>
        <MenuItem
          onClick={() => {
            save('gradient.cpt', gradientToCpt(label, stops), 'text/plain');
          }}
        >
          Save as CPT
        </MenuItem>
      </Menu>
      <FileChooser
        ref={chooser}
        label={`Gradient file for ${label}`}
        accept=".svg,.cpt"
        onChoose={([file]) => {
          void take(file);
        }}
      />
    </>
  );
}
