import { Box, InputBase } from '@mui/material';
import { useState } from 'react';
import { chainOf, namesOf, type Piece } from '@vast-swarm/core/piece';
import {
  FormulaError,
  formulaMaps,
  formulaSignals,
  FUNCTIONS,
  NAMES,
  parseFormula,
} from '@vast-swarm/core/feeds';
import { usePiece } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';

interface Props {
  label: string;
  text: string;
  /** Whether the particle's readings can be named. */
  particle: boolean;
  /** Where it stands in the piece, where it is a signal's. */
  path?: readonly (string | number)[];
  onChange: (text: string) => void;
}

/** @param own the signal whose formula it is */
function problemOf(
  piece: Piece,
  text: string,
  particle: boolean,
  own: string | undefined,
): FormulaError | null {
  try {
    parseFormula(text, particle);
    for (const name of formulaSignals(text)) {
      const at = Math.max(0, text.indexOf(name));
      if (!piece.signals.some((s) => namesOf(s).includes(name))) {
        return new FormulaError(at, `there is no signal '${name}'`);
      }
      if (chainOf(piece, [name]).some((s) => s.id === own)) {
        return new FormulaError(at, `'${name}' is made from this signal itself`);
      }
    }
    for (const id of formulaMaps(text)) {
      const at = Math.max(0, text.indexOf(id));
      const moving = piece.pictures.some((p) => p.id === id);
      if (!moving && !piece.stock.some((s) => s.id === id && s.type === 'picture')) {
        return new FormulaError(at, `there is no picture '${id}'${among(piece.pictures)}`);
      }
    }
    return null;
  } catch (error) {
    if (error instanceof FormulaError) return error;
    throw error;
  }
}

/** The ids that there are, so that nobody has to look for them. */
function among(parts: readonly { id: string }[]): string {
  return parts.length > 0 ? `; there is ${parts.map((p) => p.id).join(', ')}` : '';
}

const OF_FRAME = ['time', 'frame', 'seed', 'pi', 'signal(…)'];

/** A formula that is taken over when it can be read; else the place of the error is shown. */
export function FormulaField({ label, text, particle, path = [], onChange }: Props) {
  const piece = usePiece();
  const own = path[0] === 'signals' ? piece.signals[path[1] as number]?.id : undefined;
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? text;
  const problem = problemOf(piece, shown, particle, own);
  const commit = (): void => {
    if (typed !== null && !problem && typed !== text) onChange(typed);
    if (!problem) setTyped(null);
  };
  const names = particle ? [...Object.keys(NAMES), 'map(…)'] : OF_FRAME;
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
          fontFamily: MONO,
          fontSize: 12.5,
          px: 0.5,
          py: '2px',
          bgcolor: COLOURS.ground,
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
