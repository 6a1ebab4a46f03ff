/** The arrows of the tree: who may import whom. */
module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/src' },
      to: { path: '^(cli|server|web|demo|e2e)/' },
    },
    { name: 'core-is-pure', severity: 'error', from: { path: '^core/src' }, to: { dependencyTypes: ['core'] } },
    { name: 'server-not-web', severity: 'error', from: { path: '^server/src' }, to: { path: '^(web|cli)/' } },
    { name: 'web-not-server', severity: 'error', from: { path: '^web/src' }, to: { path: '^(server|cli)/' } },
    {
      name: 'ui-knows-nothing',
      severity: 'error',
      from: { path: '^web/src/ui' },
      to: { path: '^web/src/(?!ui/)|^core/' },
    },
    {
      name: 'live-knows-no-page',
      severity: 'error',
      from: { path: '^web/src/(live|host|protocol)' },
      to: { path: '^web/src/(app|features|state|show)/' },
    },
    {
      name: 'features-below-app',
      severity: 'error',
      from: { path: '^web/src/(features|state|show|checks)' },
      to: { path: '^web/src/app/' },
    },
    {
      name: 'features-keep-to-themselves',
      severity: 'error',
      from: { path: '^web/src/features/([^/]+)/' },
      to: {
        path: '^web/src/features/([^/]+)/',
        pathNot: ['^web/src/features/$1/', '^web/src/features/[^/]+/index\\.ts$'],
      },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
};
