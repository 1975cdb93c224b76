/** The walls of the house: what may know what. See docs/architecture.md. */
const test = '\\.test\\.tsx?$';
const smallTools = '^core/src/(units|time|stats)/';
const stages = '^core/src/(wood|machining|fitting|finishing|assembly)/';
/** What is said of a batch, each room knowing those before it. */
const rooms = [
  'simulate',
  'options',
  'route',
  'ledger',
  'coats',
  'holds',
  'measuring',
  'joining',
  'orders',
  'kits',
  'entries',
  'stays',
  'ladder',
  'passport',
];
const analysis = '(stock|logline|flow)';

/** The server's rooms, each knowing those before it: stages complete what is filed through FactsService, the log asks none. */
const serverRooms = [
  ...['database', 'health', 'http', 'live', 'paper', 'setup', 'log', 'floor'],
  ...[
    'wood',
    'finishing',
    'machining',
    'routing',
    'fitting',
    'assembly',
    'passport',
    'backup',
    'flow',
    'orders',
    'kits',
    'reports',
    'demo',
    'commands',
  ],
];
/** Each room knows those before it; tests may look into any. */
const inOrder = (folder, all, others = []) =>
  all.map((room, i) => ({
    name: `${room}-knows-the-rooms-before-it`,
    severity: 'error',
    from: { path: `^${folder}/${room}/`, pathNot: test },
    to: { path: `^${folder}/(${[...all.slice(i + 1), ...others].join('|')})/` },
  }));

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
      from: { path: stages, pathNot: test },
      to: { path: `^core/src/(${rooms.join('|')}|${analysis})/` },
    },
    ...inOrder('core/src', rooms, [analysis]),
    ...inOrder('server/src', serverRooms),
    {
      name: 'rows-are-a-room-s-own',
      comment:
        'Tables are read and written by the room whose they are, batches by floor for everybody. Others may name the type of a row.',
      severity: 'error',
      from: { path: '^server/src/([^/]+)/', pathNot: `${test}|^server/src/(demo|testing|floor)/` },
      to: {
        path: '^server/src/[^/]+/rows\\.ts$',
        pathNot: ['^server/src/$1/'],
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'floor-reads-batches-only',
      severity: 'error',
      from: { path: '^server/src/floor/', pathNot: test },
      to: { path: '^server/src/[^/]+/rows\\.ts$', pathNot: ['^server/src/log/'] },
    },
    {
      name: 'a-room-is-entered-by-its-index',
      comment: "What a room's index.ts does not list is private.",
      severity: 'error',
      from: { path: '^core/src/([^/]+)', pathNot: `${test}|^core/src/testing/` },
      to: { path: `^core/src/(${rooms.join('|')})/`, pathNot: ['/index\\.ts$', '^core/src/$1/'] },
    },
    {
      name: 'stock-knows-wood-and-words',
      comment: 'Lots of lumber are no batches: of theirs they share only how a refusal looks.',
      severity: 'error',
      from: { path: '^core/src/stock/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^core/src/',
        pathNot: '^core/src/(stock|units|time|stats|wood)/|^core/src/(ledger/index|csv)',
      },
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
      to: { path: '^web/src/(api|frame|shared|board|batch|flow|stage)/' },
    },
    {
      name: 'the-frame-is-around-the-pages',
      comment: 'It opens the pages; they do not know what stands around them.',
      severity: 'error',
      from: { path: '^web/src/', pathNot: '^web/src/(frame/|main)' },
      to: { path: '^web/src/frame/' },
    },
    {
      name: 'what-pages-share-knows-no-page',
      severity: 'error',
      from: { path: '^web/src/shared/', pathNot: test },
      to: { path: '^web/src/', pathNot: '^web/src/(shared|api|outbox)/' },
    },
    {
      name: 'what-pages-are-made-of-knows-no-page',
      severity: 'error',
      from: { path: '^web/src/(parts|fields|tables)/', pathNot: test },
      to: { path: '^web/src/', pathNot: '^web/src/(parts|fields|tables|shared|api)/' },
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
