import type { ControlKind } from '../kinds';
import { colour } from './colour';
import { fader } from './fader';
import { gradient } from './gradient';
import { option } from './option';
import { picture } from './picture';
import { onOff } from './switch';

/** Controls for whoever runs the show, in the order of the chooser. */
export const controls: ControlKind[] = [fader, onOff, colour, gradient, picture, option];
