import { Box, InputBase } from '@mui/material';
import { useState } from 'react';
import { FormulaError, FUNCTIONS, NAMES, parseFormula } from '@vast-swarm/core';
import { COLOURS, MONO } from '../../theme';

interface Props {
  label: string;
  text: string;
  /** Whether the particle's readings can be named. */
  particle: boolean;
  onChange: (text: string) => void;
}

function problemOf(text: string, particle: boolean): FormulaError | null {
  try {
    parseFormula(text, particle);
    return null;
  } catch (error) {
    if (error instanceof FormulaError) return error;
    throw error;
  }
}

const OF_FRAME = ['time', 'frame', 'seed', 'pi'];

/** A formula that is taken over when it can be read; else the place of the error is shown. */
export function FormulaField({ label, text, particle, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? text;
  const problem = problemOf(shown, particle);
  const commit = (): void => {
    if (typed !== null && !problem && typed !== text) onChange(typed);
    if (!problem) setTyped(null);
  };
  const names = particle ? Object.keys(NAMES) : OF_FRAME;
  return (
    <Box sx={{ minWidth: 0 }}>
      <InputBase
        fullWidth
        multiline
        maxRows={4}
        value={shown}
        onChange={(e) => {
          setTyped(e.target.value.replace(/\n/g, ' '));
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            commit();
          }
          if (e.key === 'Escape') setTyped(null);
        }}
        inputProps={{ 'aria-label': `${label}, formula`, 'aria-invalid': problem !== null }}
        sx={{
          ...{ fontFamily: MONO, fontSize: 12.5, px: 0.5, py: '2px', bgcolor: COLOURS.ground },
          borderRadius: 0.5,
        }}
      />
      {problem && (
        <Box role="alert" sx={{ fontFamily: MONO, fontSize: 11.5, color: COLOURS.coral }}>
          <Box component="span" aria-hidden sx={{ whiteSpace: 'pre', pl: 0.5 }}>
            {`${' '.repeat(Math.min(problem.at, 40))}^`}
          </Box>
          <Box>
            Character {problem.at + 1}: {problem.problem}
          </Box>
        </Box>
      )}
      {typed !== null && (
        <Box sx={{ color: COLOURS.faint, fontSize: 11, pt: '2px' }}>
          {names.join(' ')} · {Object.keys(FUNCTIONS).join(' ')}
        </Box>
      )}
    </Box>
  );
}
