import { Box, Tooltip } from '@mui/material';
import { useState } from 'react';
import type { DialSpec } from '@vast-swarm/core/kinds';
import { COLOURS, MONO } from '../ui/theme';
import { DialLock } from '../variations/DialLock';
import { SKETCHES } from './sketches';

interface Props {
  spec: DialSpec;
  path: (string | number)[];
  changed: boolean;
  /** Whether something of its row has come into focus by the keyboard. */
  focused: boolean;
}

/** The name of a dial; what it does, its unit and its limits, where it is pointed at or come to by keys. */
export function DialName({ spec, path, changed, focused }: Props) {
  const [over, setOver] = useState(false);
  return (
    <div
      onPointerEnter={() => {
        setOver(true);
      }}
      onPointerLeave={() => {
        setOver(false);
      }}
      className="dialName"
      data-changed={changed || undefined}
    >
      <DialLock title={spec.title} path={path} />
      {spec.title}
      {changed && (
        <span aria-hidden className="changedDot">
          •
        </span>
      )}
      {(over || focused) && (
        // Only there while it is wanted: a sheet has very many names.
        <Tooltip
          open
          disableInteractive
          placement="left"
          title={<DialHelp spec={spec} path={path} />}
        >
          <span className="helped" />
        </Tooltip>
      )}
    </div>
  );
}

function DialHelp({ spec, path }: Pick<Props, 'spec' | 'path'>) {
  const sketch = SKETCHES[String(path.at(-1))];
  const limits = limitsOf(spec);
  return (
    <Box sx={{ maxWidth: 260 }}>
      {spec.help}
      {limits && <Box sx={{ fontFamily: MONO, fontSize: 11, mt: 0.5 }}>{limits}</Box>}
      {sketch && (
        <Box
          component="svg"
          viewBox="0 0 96 40"
          aria-hidden
          sx={{ display: 'block', width: 144, height: 60, mt: 0.5 }}
        >
          <path d={sketch} fill="none" stroke={COLOURS.glass} strokeWidth="1.5" />
        </Box>
      )}
    </Box>
  );
}

/** Limits of a dial in its unit, and its first value. */
export function limitsOf(spec: DialSpec): string | null {
  if (spec.type !== 'number' && spec.type !== 'vector') return null;
  const text = (v: number): string => v.toLocaleString('en-GB').replace(/,/g, '\u202f');
  const unit = spec.unit ? ` ${spec.unit}` : '';
  const whole = spec.type === 'number' && spec.whole ? ', whole' : '';
  const first = typeof spec.default === 'number' ? `; begins with ${text(spec.default)}` : '';
  return `${text(spec.min)} to ${text(spec.max)}${unit}${whole}${first}`;
}
