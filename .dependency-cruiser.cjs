/**
 * The house, floor by floor from the ground up: a folder may import those named before it, and nothing else of its house. A folder
 * that is not named here is a fault.
 */
const CORE = [
  'words',
  'units',
  'instruments',
  'materials',
  'geometry',
  'sighting',
  'instruct',
  'heat',
  'forging',
  'kiln',
  'stock',
  'flow',
  'loose',
  'shop',
  'billet',
  'pose',
  'picture',
  'form',
  'canister',
  'blade',
  'moves',
  'assembly',
  'records',
  'plan',
  'copies',
  'judgement',
  'days',
  'learning',
  'forecast',
  'render',
  'print',
  'likeness',
  'recipes',
  'trainer',
];
/** Inside core/moves: the contract, then the groups, none of which knows another. */
const MOVES = ['contract', 'begin', 'forge', 'saw', 'lay', 'surface', 'between'];
const WEB = ['ui', 'document', 'editors', 'benches', 'screens'];
/** Inside web/src/screens: the frame of a piece and the can's screen open others; the rest stand apart. */
const SCREENS = [
  'files',
  'shelf',
  'shop',
  'instruments',
  'days',
  'stock',
  'kiln',
  'blade',
  'print',
  'bench',
  'log',
  'history',
  'trainer',
  'plan',
  'can',
  'wish',
  'piece',
];
const BENCHES = [
  'steel',
  'kiln',
  'arrange',
  'shape',
  'tiles',
  'ends',
  'press',
  'seams',
  'canister',
  'show',
  'sight',
];

const TESTS = '(\\.test\\.tsx?$|^core/tests/)';
const any = (names) => `(${names.join('|')})`;

/** A rule for every floor of a house, and one for folders that it does not name. */
function floors(root, names, { free = [] } = {}) {
  const each = names.map((name, i) => ({
    name: `${root}/${name} imports what is named below it`,
    severity: 'error',
    from: { path: `^${root}/${name}/`, pathNot: TESTS },
    to: { path: `^${root}/[^/]+/`, pathNot: `^${root}/${any([name, ...names.slice(0, i), ...free])}/` },
  }));
  const unnamed = {
    name: `every folder of ${root} is named`,
    severity: 'error',
    from: { path: `^${root}/(?!${any([...names, ...free, 'tests'])}/)[^/]+/` },
    to: {},
  };
  return [...each, unnamed];
}

/** Folders of which none may import another. */
const apart = (root, names) =>
  names.map((name) => ({
    name: `${root}/${name} stands apart`,
    severity: 'error',
    from: { path: `^${root}/${name}/`, pathNot: TESTS },
    to: { path: `^${root}/${any(names.filter((n) => n !== name))}/` },
  }));

const PLAIN_CALCULATION =
  '^node_modules/(zod|d3-contour|@types/d3-contour|d3-array|@types/d3-array|clipper2-ts|image-size|saxes|svgpath|colord|fflate|manifold-3d|@tarikjabiri/dxf|@noble/hashes|base64-js|@types/base64-js|fast-deep-equal|ml-matrix|simple-statistics|fft\\.js)/';

module.exports = {
  forbidden: [
    {
      name: 'no-value-cycle',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    ...floors('core', CORE),
    ...floors('core/moves', MOVES),
    ...apart('core/moves', MOVES.slice(1)),
    ...floors('web/src', WEB),
    ...floors('web/src/benches', BENCHES),
    ...floors('web/src/screens', SCREENS),
    {
      name: 'core-imports-only-itself-and-plain-calculation',
      severity: 'error',
      from: { path: '^core/', pathNot: TESTS },
      to: { pathNot: ['^core/', PLAIN_CALCULATION] },
    },
    {
      name: 'only-tests-import-what-is-for-tests',
      severity: 'error',
      from: { pathNot: '(\\.test\\.tsx?$|^(e2e|bench)/|^(core|server|web/src)/tests/)' },
      to: { path: '^(core|server|web/src)/tests/' },
    },
    {
      name: 'cli-server-web-stand-apart',
      severity: 'error',
      from: { path: '^(cli|server|web)/' },
      to: { path: '^(cli|server|web)/', pathNot: '^$1/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default'] },
  },
};
