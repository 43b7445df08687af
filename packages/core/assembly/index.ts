export { bytesOf, find, planeBytes, strideOf } from './flow';
export { grey, greyBytes } from './grey';
export { choose, chooseBytes, lightAt } from './spots';
export { mix, mixBytes, planesAt } from './planes';
