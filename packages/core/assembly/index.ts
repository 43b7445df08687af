export { bytesOf, find, planeBytes } from './flow';
export { grey, greyBytes } from './grey';
export { strideOf } from './rows';
export { choose, chooseBytes, lightAt } from './spots';
export { mix, mixBytes, planesAt } from './planes';
