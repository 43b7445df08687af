export { countAlive, countTiles, fillTiles, placeTiles } from './bins';
export { drawTile } from './draw';
export { addDoubled, addPlanes, halve, shrink } from './bloom';
export { sortCells } from './cells';
export { countMeshes, fillMeshes } from './meshes';
export { drawSolids } from './solids';
export { fillTrails } from './trails';
export { keepLinks, limitLinks, rankLinks } from './linkSearch';
export { fillFaces, fillLinks } from './links';
