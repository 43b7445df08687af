/** The demo show, shipped recipes, and a small piece for each kind. What they use of the stock is offered with them. */
import '../demo/content';

export { MADE } from '../demo/content';
export { kindPiece } from '../demo/kinds';
export { RECIPES } from '../demo/recipes';
export { DEMO_SHOW } from '../demo/saltglassQuay';
