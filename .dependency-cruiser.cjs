// Imports point downwards only; see docs/architecture.md for the picture.
const only = (name, from, allowed, comment) => ({
  name,
  comment,
  severity: 'error',
  from: { path: `^src/${from}/`, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^src/', pathNot: `^src/(${[from, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    only('core-knows-only-core', 'core', [], 'The core has no input or output and knows nobody.'),
    only('contract-knows-core', 'contract', ['core'], 'Requests and answers speak of core types only.'),
    only(
      'embed-stands-alone',
      'embed',
      ['contract', 'core'],
      'What runs on pages of others is small: of the rest only pure pieces.',
    ),
    {
      name: 'embed-has-no-packages',
      severity: 'error',
      from: { path: '^src/embed/' },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev'] },
    },
    only('forms-know-core', 'forms', ['core'], 'What visitors see is printed from documents alone.'),
    only('store-knows-contract', 'server/store', ['contract', 'core'], 'SQL stands below everything of the server.'),
    only('security-stands-alone', 'server/security', ['server/store', 'contract', 'core'], ''),
    only(
      'connectors-know-no-work',
      'server/connectors',
      ['server/security', 'contract', 'core'],
      'Speaking to other systems needs no database.',
    ),
    {
      name: 'work-knows-no-http',
      severity: 'error',
      from: { path: '^src/server/work/' },
      to: { path: '^src/server/(http|commands|demo|bench)/' },
    },
    {
      name: 'planning-is-below-both',
      comment: 'What workers and use cases plan with.',
      severity: 'error',
      from: { path: '^src/server/planning/' },
      to: { path: '^src/server/(http|work|commands|demo|bench)/' },
    },
    {
      name: 'commands-know-no-http',
      comment: 'A use case is the same whoever calls it.',
      severity: 'error',
      from: { path: '^src/server/(commands|connecting)/' },
      to: { path: '^src/server/(http|work|demo|bench)/' },
    },
    {
      name: 'connecting-knows-no-commands',
      severity: 'error',
      from: { path: '^src/server/connecting/' },
      to: { path: '^src/server/commands/' },
    },
    {
      name: 'http-knows-no-demo',
      severity: 'error',
      from: { path: '^src/server/http/' },
      to: { path: '^src/server/(demo|bench)/' },
    },
    only(
      'web-knows-contract',
      'web',
      ['contract', 'core', 'forms', 'embed'],
      'The interface reaches the server over HTTP only.',
    ),
    only(
      'standins-stand-alone',
      'standins',
      [],
      'Stand-ins are reached over the network; they import nothing of the application.',
    ),
    {
      name: 'data-asks-the-server',
      comment: 'Keys, queries and what follows on a change are written once, in web/data; views use its hooks.',
      severity: 'error',
      from: { path: '^src/web/(areas|parts|shell)/' },
      to: { path: 'node_modules/@tanstack/react-query/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'data-shows-nothing',
      severity: 'error',
      from: { path: '^src/web/data/' },
      to: { path: '^src/web/(areas|parts|shell)/' },
    },
    {
      name: 'core-is-pure',
      comment: 'No clock, no network, no file, no framework in the core; of packages only those that compute.',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['core', 'npm', 'npm-dev'],
        pathNot:
          'node_modules/(libphonenumber-js|json-p3|re2js|luxon|big\\.js|htmlparser2|@noble/hashes|munkres|fastest-levenshtein|dequal|papaparse|fast-xml-parser|fast-xml-validator|ical\\.js|parse5|fflate|css-tree|css-select|dom-serializer|colorjs\\.io|@sindresorhus)/',
      },
    },
    {
      name: 'areas-by-their-index',
      comment: 'Each folder of core names in index.ts what others may use.',
      severity: 'error',
      from: { path: '^src/(contract|server|web)/' },
      to: { path: '^src/core/[^/]+/', pathNot: '/index\\.ts$' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js', '.json'] },
  },
};
