import { GlobalStyles } from '@mui/material';
import { memo } from 'react';
import { COLOURS, MONO } from './theme';

/**
 * How the rows of dials look, once for all of them: a sheet has a hundred and more, and styles that each of
 * them worked out for itself took longer than everything else when a part is selected.
 */
const STYLES = {
  '.dialRow': {
    display: 'grid',
    gridTemplateColumns: '96px 140px 26px 1fr',
    columnGap: 4,
    alignItems: 'start',
    padding: '3px 0',
    minHeight: 28,
    '&[data-wide]': { gridTemplateColumns: '96px 1fr 26px' },
    '&[data-lit]': { outline: `1px solid ${COLOURS.amber}`, backgroundColor: COLOURS.raised },
  },
  '.dialName': {
    position: 'relative',
    color: COLOURS.faint,
    fontSize: 13,
    paddingTop: 2,
    '&[data-changed]': { color: COLOURS.text },
    '.changedDot': { color: COLOURS.amber, fontSize: 11, marginLeft: 3 },
    // What the help stands beside.
    '.helped': { position: 'absolute', inset: 0, pointerEvents: 'none' },
  },
  '.numberField': {
    display: 'flex',
    alignItems: 'baseline',
    minWidth: 0,
    cursor: 'ew-resize',
    input: {
      flex: 1,
      minWidth: 0,
      boxSizing: 'border-box',
      padding: '2px 4px',
      border: 0,
      borderRadius: 2,
      background: 'none',
      color: COLOURS.text,
      font: `12.5px ${MONO}`,
      fontVariantNumeric: 'tabular-nums',
      textAlign: 'right',
      cursor: 'inherit',
      '&:hover': { backgroundColor: COLOURS.line },
      '&:focus': { backgroundColor: COLOURS.ground, cursor: 'text' },
      '&[aria-invalid=true]': { color: COLOURS.coral },
    },
    span: { color: COLOURS.faint, fontSize: 11, paddingLeft: 2, whiteSpace: 'nowrap' },
  },
  '.plainSelect': {
    display: 'flex',
    alignItems: 'center',
    gap: 6,
    minWidth: 0,
    padding: '2px 2px 2px 0',
    fontSize: 13,
    cursor: 'pointer',
    span: { flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
    svg: { width: 9, height: 9, flexShrink: 0, fill: 'currentColor' },
  },
  '.feedSign': {
    width: 24,
    height: 24,
    padding: 2,
    border: 0,
    background: 'none',
    borderRadius: '50%',
    color: COLOURS.faint,
    cursor: 'pointer',
    lineHeight: 0,
    '&:hover': { backgroundColor: COLOURS.line },
    '&[data-driven]': { color: COLOURS.glass },
  },
} as const;

export const DialStyles = memo(function DialStyles() {
  return <GlobalStyles styles={STYLES} />;
});
