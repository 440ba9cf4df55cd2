/** The direction of imports: core <- cli, server, web; inside core, from the ground up. */
module.exports = {
  forbidden: [
    { name: 'no-cycle', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-imports-only-itself-and-plain-calculation',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.test\\.ts$|^core/tests/)' },
      to: {
        pathNot: [
          '^core/',
          '^node_modules/(zod|d3-contour|@types/d3-contour|d3-array|@types/d3-array|clipper2-ts|saxes|svgpath|colord|fflate|manifold-3d|@tarikjabiri/dxf|@noble/hashes|base64-js|@types/base64-js)/',
        ],
      },
    },
    {
      name: 'only-tests-import-what-is-for-tests',
      severity: 'error',
      from: { pathNot: '(\\.test\\.ts$|^e2e/|^(core|server)/tests/)' },
      to: { path: '^(core|server)/tests/' },
    },
    {
      name: 'core-units-geometry-are-the-ground',
      severity: 'error',
      from: { path: '^core/(units|geometry)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/(materials|shop|billet|steps|plan|render)/' },
    },
    {
      name: 'core-billet-knows-no-steps',
      severity: 'error',
      from: { path: '^core/(materials|shop|billet|render)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/(steps|plan)/' },
    },
    {
      name: 'core-steps-know-no-plan',
      severity: 'error',
      from: { path: '^core/steps/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/(plan|render)/' },
    },
    {
      name: 'heat-forging-kiln-stock-know-no-steps',
      severity: 'error',
      from: { path: '^core/(heat|forging|kiln|stock)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/(billet|steps|plan|judgement|print|render)/' },
    },
    {
      name: 'plan-knows-no-judgement',
      severity: 'error',
      from: { path: '^core/(billet|steps|plan|render)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/(judgement|print)/' },
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
    tsPreCompilationDeps: false,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default'] },
  },
};
