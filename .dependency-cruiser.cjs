/**
 * The walls of the house, checked by `npm run boundaries` and by the tests. Each rule says what a folder may not import;
 * `docs/architecture.md` draws the same picture in words.
 */
const room = (name) => `^core/${name}/`;

/** Rooms of core from the bottom up: each may use those before it and none behind it. */
const storeys = [
  'numeric',
  'fit',
  'quantity',
  'circuit',
  'material',
  'model',
  'formula',
  'field',
  'part',
  'block',
  'kind',
  'rig',
  'figure',
  'hazard',
  'limit',
  'evaluation',
  'simulate',
  'study',
  'runsheet',
  'run',
  'instrument',
  'rehearsal',
  'shot',
  'campaign',
  'format',
  'evidence',
];

const upward = storeys.slice(0, -1).map((name, i) => ({
  name: `core-${name}-looks-up`,
  severity: 'error',
  comment: `core/${name} may only use the rooms below it.`,
  from: { path: room(name), pathNot: '\\.test\\.ts$' },
  to: { path: `^core/(${storeys.slice(i + 1).join('|')})/` },
}));

/** Families of kinds, each may use those before it: most know no other. Only the registry knows all of them. */
const families = [
  'air',
  'bank',
  'pulse-line',
  'solid-state',
  'crowbar',
  'leads',
  'bleed',
  'meter',
  'charging',
  'coil',
  'supply',
  'load',
  'gap',
  'marx',
  'tesla-coil',
  'guard',
  'starter',
];

const familyUpward = families.map((name, i) => ({
  name: `kind-${name}-looks-up`,
  severity: 'error',
  comment: `core/kind/${name} may only use the families before it, and the frame in core/block.`,
  from: { path: `^core/kind/${name}/`, pathNot: '\\.test\\.ts$' },
  to: { path: [`^core/kind/[^/]+\\.ts$`, ...families.slice(i + 1).map((later) => `^core/kind/${later}/`)] },
}));

module.exports = {
  forbidden: [
    ...upward,
    ...familyUpward,
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      severity: 'error',
      comment: 'The computation knows no DOM, no Node, no React: only zod and small pure libraries.',
      from: { path: '^core/', pathNot: ['\\.test\\.ts$', '^core/test/'] },
      to: { pathNot: ['^core/', '^node_modules/(zod|ml-matrix|simple-statistics|@noble/hashes)/'] },
    },
    {
      name: 'core-tests-stay-in-core',
      severity: 'error',
      from: { path: '^core/.*\\.test\\.ts$' },
      to: { path: '^(contract|server|web|cli|e2e)/' },
    },
    {
      name: 'contract-on-core-alone',
      severity: 'error',
      from: { path: '^contract/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: ['^contract/', '^core/', '^node_modules/zod/'] },
    },
    { name: 'server-not-web', severity: 'error', from: { path: '^server/' }, to: { path: '^(web|cli|e2e)/' } },
    {
      name: 'server-no-react',
      severity: 'error',
      from: { path: '^(server|cli)/' },
      to: { path: '^node_modules/(react|react-dom|echarts)/' },
    },
    { name: 'web-not-server', severity: 'error', from: { path: '^web/' }, to: { path: '^(server|cli|e2e)/' } },
    {
      name: 'web-no-node',
      severity: 'error',
      from: { path: '^web/', pathNot: '(^web/test/|(vite\\.config|\\.test)\\.tsx?$)' },
      to: { dependencyTypes: ['core'] },
    },
    { name: 'cli-on-core-alone', severity: 'error', from: { path: '^cli/' }, to: { path: '^(server|web|contract|e2e)/' } },
    { name: 'unresolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|coverage)/' },
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.cjs', '.css'],
    },
  },
};
