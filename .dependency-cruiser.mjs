/**
 * The arrows of docs/architecture.md, for imports by package name and by path alike. server/test/arrows.test.ts plants one
 * forbidden import of each kind and sees it refused.
 */
const rule = (name, comment, from, to) => ({ name, comment, severity: 'error', from, to })

/** The folders of the core, from the ground up: each knows only those before it. */
const ground = [
  'time',
  'exact',
  'scoring',
  'exam',
  'sessions',
  'others',
  'attempts',
  'learner',
  'hours',
  'review',
  'recall',
  'csv',
  'plan',
  'guessing',
  'pacing',
  'examday',
  'room',
  'candidate',
]
const layers = ground
  .slice(0, -1)
  .map((folder, at) =>
    rule(
      `core-${folder}-knows-only-below`,
      'an arrow in the core never points up',
      { path: `^core/src/${folder}/` },
      { path: `^core/src/(${ground.slice(at + 1).join('|')})/` },
    ),
  )
/** Tests may look anywhere; what they test may not. */
const code = (path) => ({ path, pathNot: '\\.test\\.ts$' })
const frameworks = '(^|node_modules/)(vue|vue-router|pinia|vuetify|express|sequelize|d3[^/]*)(/|$)'

export default {
  forbidden: [
    rule('no-circle', 'a circle is one idea in two files, or two ideas in one', {}, { circular: true }),
    ...layers.map((one) => ({ ...one, from: { ...one.from, pathNot: '\\.test\\.ts$' } })),
    rule('contract-leans-on-nothing', 'the contract knows nobody', code('^contract/src/'), {
      path: '^(core|server|web|demo)/',
    }),
    rule('core-is-pure', 'no server, no screen, no demo in the core', code('^core/src/'), {
      path: '^(server|web|demo)/',
    }),
    rule('core-knows-no-host', 'no Node API in the core', code('^core/src/'), { dependencyTypes: ['core'] }),
    rule('core-knows-no-framework', 'no framework in the core', code('^core/src/'), { path: frameworks }),
    rule('the-checker-stands-alone', 'it shares no code with the planner', code('^core/src/plan/check/'), {
      path: '^core/src/(?!plan/check/)',
    }),
    rule('server-knows-no-screen', 'the server does not know the web app', code('^server/src/'), {
      path: '^web/',
    }),
    rule('a-route-calls-a-service', 'a route holds no logic', code('^server/src/routes/'), {
      path: '(^|node_modules/)sequelize(/|$)|^server/src/migrations/',
    }),
    rule('a-service-knows-no-http', 'a service knows no HTTP', code('^server/src/services/'), {
      path: '(^|node_modules/)express(/|$)|^server/src/routes/',
    }),
    rule('a-model-knows-no-service', 'a model holds no rule', code('^server/src/models/'), {
      path: '^server/src/(services|routes)/',
    }),
    rule('web-talks-through-the-contract', 'the web app knows no server', code('^web/src/'), {
      path: '^(server|demo)/',
    }),
    rule('web-runs-in-a-browser', 'no Node API in the web app', code('^web/src/'), {
      dependencyTypes: ['core'],
    }),
    rule(
      'a-store-knows-no-screen',
      'screens use stores, not the other way round',
      code('^web/src/(stores|workers|manners|widgets|kit|outbox)/'),
      { path: '^web/src/screens/' },
    ),
    rule('the-kit-stands-alone', 'a control knows no candidate', code('^web/src/kit/'), {
      path: '^web/src/(stores|widgets|screens|workers)/',
    }),
    rule('the-outbox-knows-no-store', 'what waits is below what is shown', code('^web/src/outbox/'), {
      path: '^web/src/(stores|widgets|screens|workers|kit)/',
    }),
    rule('packages-by-name', 'a package is imported by its name', code('^(core|server|web)/src/'), {
      path: '^(contract|core)/src/',
      dependencyTypes: ['local'],
      pathNot: '$1',
    }),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^(contract|core|server|web)/dist/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.vue', '.mjs', '.mts', '.js', '.json'],
    },
  },
}
