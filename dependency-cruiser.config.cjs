/** The walls of the house: what may know what. See docs/architecture.md. */
const smallTools = '^core/src/(units|time|stats)/';
const stages = '^core/src/(wood|machining|fitting|finishing|assembly)/';

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-knows-nobody',
      comment: 'The core imports no other workspace and no interface or server library.',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { path: '^(server|web|stand-ins|e2e)/|node_modules/(react|@nestjs|typeorm|@mui)' },
    },
    {
      name: 'core-has-no-node',
      comment: 'No clock, no file, no process in the core: it must run unchanged in a browser.',
      severity: 'error',
      from: { path: '^core/src/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'small-tools-know-nobody',
      severity: 'error',
      from: { path: smallTools, pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/', pathNot: smallTools },
    },
    {
      name: 'stages-know-small-tools-only',
      severity: 'error',
      from: { path: stages, pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(routing|stock|logline|flow|forecast|schedule)/' },
    },
    {
      name: 'stock-knows-wood-and-words',
      comment: 'Lots of lumber are no batches: of routing they share only how a refusal looks.',
      severity: 'error',
      from: { path: '^core/src/stock/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^core/src/',
        pathNot: '^core/src/(stock|units|time|stats|wood)/|^core/src/routing/refusal',
      },
    },
    {
      name: 'routing-knows-no-analysis',
      severity: 'error',
      from: { path: '^core/src/routing/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/(stock|logline|flow|forecast|schedule)/' },
    },
    {
      name: 'web-knows-the-core-only',
      comment: 'The web meets the server through its OpenAPI document.',
      severity: 'error',
      from: { path: '^web/src/' },
      to: { path: '^(server|stand-ins|e2e)/' },
    },
    {
      name: 'devices-only-draw',
      severity: 'error',
      from: { path: '^web/src/devices/', pathNot: 'DevicesPage|\\.test\\.tsx$' },
      to: { path: '^web/src/(api|app|board|batch|flow|stage|release)/' },
    },
    {
      name: 'server-knows-no-web',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(web|e2e|stand-ins)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist|generated)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.test.json' },
    enhancedResolveOptions: {
      conditionNames: ['@ample-crane/source', 'import', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js'],
    },
  },
};
