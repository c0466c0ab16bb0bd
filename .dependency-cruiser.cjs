/** The layers of the house, as rules: who may import whom. */
const layer = (name, from, to) => ({
  name,
  severity: 'error',
  comment: 'See docs/architecture.md',
  from: { path: from },
  to: { path: to },
});

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', comment: 'Of types neither.', from: {}, to: { circular: true } },
    layer('core-stands-alone', '^src/core', '^src/(?!core)'),
    {
      name: 'core-knows-no-machine',
      severity: 'error',
      from: { path: '^src/core' },
      to: { dependencyTypes: ['core'] },
    },
    layer('office-on-core', '^src/office', '^src/(?!core|office)'),
    layer('server-on-office', '^src/server', '^src/(?!core|office|server)'),
    layer('the-tree-below-items', '^src/server/tree', '^src/server/(items|pages|vacancies|notices|pictures)/'),
    layer('items-below-their-types', '^src/server/items', '^src/server/(pages|vacancies)/'),
    layer('islands-on-office', '^src/islands', '^src/(?!core|office|islands)'),
    layer('office-by-its-front-door', '^src/(?!office)', '^src/office/(?!index)'),
    layer('islands-ask-useInventory', '^src/islands/(?!kit/inventory)', '^src/office'),
    { ...layer('demo-is-for-seeding', '^src/(?!demo)', '^src/demo'), from: { path: '^src/(?!demo|pages/sign-in)' } },
    {
      name: 'core-by-its-front-door',
      severity: 'error',
      comment: 'Every folder of the core has one public file.',
      from: { pathNot: '^src/core' },
      to: { path: '^src/core/[^/]+/(?!index)' },
    },
    {
      name: 'core-folders-by-their-front-door',
      severity: 'error',
      from: { path: '^src/core/([^/]+)/' },
      to: { path: '^src/core/[^/]+/(?!index)', pathNot: '^src/core/$1/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
  },
};
