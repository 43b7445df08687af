export { countAlive, countTiles, fillTiles, placeTiles } from './bins';
export { drawTile } from './draw';
export { addDoubled, addPlanes, halve, shrink } from './bloom';
export { sortCells } from './cells';
export { fillMeshes } from './meshes';
export { fillTrails } from './trails';
export { fillFaces, fillLinks, keepLinks, limitLinks, rankLinks } from './links';
