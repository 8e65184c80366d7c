/** Imports run one way: web → contract → core, server → contract → core; areas keep their insides to themselves. */
const forbid = (name, from, to) => ({ name, severity: 'error', from: { path: from }, to: { path: to } });

module.exports = {
  forbidden: [
    forbid('core-stands-alone', '^core/', '^(contract|server|web|e2e|bench)/'),
    { name: 'core-does-no-io', severity: 'error', from: { path: '^core/', pathNot: '\\.test\\.ts$' }, to: { dependencyTypes: ['core'] } },
    {
      // Decimals, the ISO list of currencies, telling whether two values are the same, and the normal quantile.
      name: 'core-needs-four-packages-only',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules', pathNot: 'node_modules/(decimal\\.js|currency-codes|fast-deep-equal|jstat)/' },
    },
    forbid('contract-knows-core-only', '^contract/', '^(server|web|e2e|bench)/'),
    forbid('server-knows-no-web', '^server/', '^(web|e2e|bench)/'),
    forbid('web-knows-no-server', '^web/', '^(server|e2e|bench)/'),
    forbid('ledger-knows-no-areas', '^server/(ledger|db|http)/', '^server/areas/'),
    {
      name: 'areas-keep-their-insides',
      severity: 'error',
      from: { path: '^server/areas/([^/]+)/' },
      to: { path: '^server/areas/([^/]+)/', pathNot: ['^server/areas/$1/', '/(service|queries)\\.ts$'] },
    },
    // Four floors of the web, one way down: app, areas, shared, kit; and no area takes from another.
    forbid('kit-knows-nobody', '^web/kit/', '^web/(app|areas|shared)/'),
    forbid('shared-knows-the-kit-only', '^web/shared/', '^web/(app|areas)/'),
    forbid('areas-know-no-app', '^web/areas/', '^web/app/'),
    {
      name: 'areas-take-nothing-from-each-other',
      severity: 'error',
      from: { path: '^web/areas/([^/]+)/' },
      to: { path: '^web/areas/([^/]+)/', pathNot: '^web/areas/$1/' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: false,
    tsConfig: { fileName: 'tsconfig.json' },
    exclude: { path: '^(web|server)/dist/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default'], extensions: ['.ts', '.tsx', '.js'] },
  },
};
