/** One Jest for the workspaces. CommonJS through swc: Nest's injection needs decorator metadata. */
const swc = (extra = {}) => [
  '@swc/jest',
  {
    sourceMaps: 'inline',
    module: { type: 'commonjs' },
    jsc: {
      target: 'es2022',
      keepClassNames: true,
      parser: { syntax: 'typescript', tsx: extra.tsx ?? false, decorators: true },
      transform: {
        legacyDecorator: true,
        decoratorMetadata: true,
        useDefineForClassFields: false,
        ...(extra.tsx ? { react: { runtime: 'automatic' } } : {}),
      },
    },
  },
];

/** Packages that come as modules only; the rest of node_modules is run as it is, which saves most of a cold start. */
const MODULES = ['aedes', 'uuid', 'idb', '@nestjs', 'd3-[a-z-]+', 'internmap'];

const project = (name, conditions) => ({
  displayName: name,
  rootDir: name,
  testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/src/**/*.test.tsx'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  extensionsToTreatAsEsm: [],
  transform: { '\\.[cm]?[jt]sx?$': swc({ tsx: name === 'web' }) },
  transformIgnorePatterns: [`/node_modules/(?!(${MODULES.join('|')})/)`],
  testEnvironmentOptions: { customExportConditions: conditions },
});

const node = ['@ample-crane/source', 'node', 'node-addons'];

export default {
  // Machines are shared: a slow one is no failure, only a hang is. Speed is measured by the bench.
  testTimeout: 180_000,
  projects: [
    project('core', node),
    project('stand-ins', node),
    {
      ...project('server', node),
      moduleNameMapper: { '^file-type$': '<rootDir>/../node_modules/file-type/source/index.js' },
    },
    {
      ...project('web', ['@ample-crane/source', 'browser']),
      testEnvironment: '<rootDir>/src/testing/browser-environment.ts',
      setupFilesAfterEnv: ['<rootDir>/src/testing/setup.ts'],
      moduleNameMapper: {
        '\\.css$|^@fontsource': '<rootDir>/src/testing/nothing.ts',
        '\\?(shared)?worker$': '<rootDir>/src/testing/worker.ts',
      },
    },
  ],
};
