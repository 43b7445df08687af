export { countAlive, countTiles, fillTiles, placeTiles } from './bins';
export { drawTile } from './discs';
export { addDoubled, halve, shrink } from './bloom';
export { sortCells } from './cells';
