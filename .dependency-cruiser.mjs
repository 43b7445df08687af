/** Rooms of a package, from the ground up: each imports only from those below it, and from itself. */
const FLOORS = {
  core: [
    ['formula', 'feeds', 'stock', 'language', 'sections', 'piece', 'plan', 'play'],
    ['formats', 'show', 'demo'],
  ].flat(),
  // Drawn in docs/architecture.md.
  app: [
    ['ui', 'sections', 'workers', 'live', 'formats', 'engine', 'store', 'reading', 'data'],
    ['camera', 'joints', 'sound', 'inputs', 'control', 'stills', 'stock', 'recipes', 'answers'],
    ['fields', 'lineUp', 'variations', 'picture', 'sheet', 'strip', 'controls', 'doctor'],
    ['versions', 'walk', 'workshop', 'compare', 'render', 'renders', 'show', 'wall', 'desk'],
    ['shell', 'guide', 'home'],
  ].flat(),
};

const held = Object.entries(FLOORS).flatMap(([name, rooms]) => {
  const source = `^packages/${name}/src`;
  const above = (i) => [...rooms.slice(i + 1).map((room) => `${room}/`), '[^/]+$'].join('|');
  return [
    ...rooms.map((room, i) => ({
      name: `${name}/${room} imports only from below`,
      comment: `${room} may know ${rooms.slice(0, i).join(', ') || 'nothing but itself'}.`,
      severity: 'error',
      from: { path: `${source}/${room}/` },
      // What stands beside the rooms puts them together.
      to: { path: `${source}/(${above(i)})`, pathNot: `${source}/(progress|zod).ts$` },
    })),
    {
      name: `every room of ${name} has a floor`,
      severity: 'error',
      from: { path: `${source}/(?!(${[...rooms, 'generated', 'doors'].join('|')})/)[^/]+/` },
      to: {},
    },
  ];
});

export default {
  forbidden: [{ name: 'no circles', severity: 'error', from: {}, to: { circular: true } }, ...held],
  options: {
    // Types count as well as what runs.
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    includeOnly: '^packages/[a-z]+/src',
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
