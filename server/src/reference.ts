import express, { type Express } from 'express'
import { createRequire } from 'node:module'
import path from 'node:path'
import { z } from 'zod'
import { createDocument, type ZodOpenApiOperationObject, type ZodOpenApiPathsObject } from 'zod-openapi'
import {
  Attempt,
  Availability,
  Candidate,
  ChangedPlan,
  ClimberFileShape,
  ExamDay,
  ExamFormat,
  Failure,
  nothing,
  Plan,
  PlanSession,
  type Route,
  routes,
  StoredPlan,
  StoredSession,
} from '@climber/contract'
import { statusOf } from './refusal'

/** Shapes that the document names once and points to. */
const named = {
  Attempt,
  Availability,
  Candidate,
  ChangedPlan,
  ClimberFile: ClimberFileShape,
  ExamDay,
  ExamFormat,
  Failure,
  Plan,
  PlanSession,
  StoredPlan,
  StoredSession,
}

/** Who may call a route, in words. */
function whoMay(right: Route['right']): string {
  if (right === 'anyone') return 'Anyone.'
  if (right === 'signed-in') return 'Whoever is signed in.'
  const [of, what] = right.split(':') as ['record' | 'exam', string]
  return `Whoever may ${what} the ${of === 'record' ? "candidate's record" : 'exam'}.`
}

/** The kinds of refusal that a route can answer with. */
function refusals({ right, method, params, body }: Route): Failure['code'][] {
  const codes: Failure['code'][] = ['unavailable', 'internal']
  if (right !== 'anyone') codes.push('not-signed-in')
  if (Object.keys((params as z.ZodObject).shape).length) codes.push('not-found')
  if (right.includes(':') && !right.endsWith(':read')) codes.push('forbidden')
  if (method !== 'GET') codes.push('forged')
  if (body !== nothing) codes.push('invalid')
  if (body instanceof z.ZodObject && 'version' in body.shape) codes.push('conflict')
  return codes
}

/** Under which heading a route is found. */
function chapterOf(address: string): string {
  if (/\.ics$|\/feed$/.test(address)) return 'calendar'
  const within = /:candidateId\/(plan|sessions|attempts|simulations)\b/.exec(address)?.[1]
  const first = /^\/api\/([\w-]+)/.exec(address)?.[1] ?? ''
  return within ?? (/^(sign|session|demo|health|join)/.test(first) ? 'account' : first)
}

function operation(name: string, route: Route): ZodOpenApiOperationObject {
  const { method, path: address, right, about, params, body, answer } = route
  const codes = refusals(route)
  const isCalendar = address.endsWith('.ics')
  return {
    operationId: name,
    summary: about,
    description: whoMay(right),
    tags: [chapterOf(address)],
    security: right === 'anyone' ? [] : [method === 'GET' ? { session: [] } : { session: [], token: [] }],
    requestParams: { path: params as z.ZodObject },
    ...(body === nothing
      ? {}
      : { requestBody: { required: true, content: { 'application/json': { schema: body } } } }),
    responses: {
      '200': {
        description: 'Done.',
        content: { [isCalendar ? 'text/calendar' : 'application/json']: { schema: answer } },
      },
      ...Object.fromEntries(
        codes.map((code) => [
          `${statusOf[code]}`,
          {
            description: codes.filter((other) => statusOf[other] === statusOf[code]).join(', '),
            content: { 'application/json': { schema: Failure } },
          },
        ]),
      ),
    },
  }
}

/** `/api/exams/:examId` as OpenAPI writes it: `/api/exams/{examId}`. */
const template = (address: string) => address.replace(/:(\w+)/g, '{$1}')

/** Every route of the contract as an OpenAPI 3.1 document. */
export function openApi() {
  const paths: ZodOpenApiPathsObject = {}
  for (const [name, route] of Object.entries(routes) as [string, Route][]) {
    const address = template(route.path)
    const method = route.method.toLowerCase() as 'get' | 'put' | 'post' | 'delete'
    paths[address] = { ...paths[address], [method]: operation(name, route) }
  }
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Climber',
      version: '1',
      description:
        'What the server of Climber answers, made from the schemas that it checks with. What a schema cannot say (sums, circles, ' +
        'what belongs together) is checked besides, and refused with the path of each field at fault.',
    },
    paths,
    components: {
      schemas: named,
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'climber', description: 'From signing in.' },
        token: {
          type: 'apiKey',
          in: 'header',
          name: 'x-csrf-token',
          description: 'The `csrf` of `/api/session`; every change asks for it.',
        },
      },
    },
  })
}

const page = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width" />
    <title>Climber: what the server answers</title>
    <link rel="icon" href="data:," />
    <link rel="stylesheet" href="reader/swagger-ui.css" />
    <link rel="stylesheet" href="look.css" />
  </head>
  <body>
    <div id="reference"></div>
    <script src="reader/swagger-ui-bundle.js"></script>
    <script src="start.js"></script>
  </body>
</html>
`
const start = `SwaggerUIBundle({
  url: '../openapi.json',
  dom_id: '#reference',
  deepLinking: true,
  docExpansion: 'list',
  defaultModelsExpandDepth: 0,
  supportedSubmitMethods: [],
  validatorUrl: null,
})
`

/** Nothing can be sent from the page: it is for reading. */
const look = `.scheme-container, .authorization__btn { display: none !important }
`

/** Serves the document at /api/openapi.json, and a page to read it on at /api/reference/. */
export function serveReference(app: Express): void {
  const require = createRequire(import.meta.url)
  const reader = path.dirname(require.resolve('swagger-ui-dist/package.json'))
  let document: object | undefined
  app.get('/api/openapi.json', (_request, response) => {
    response.json((document ??= openApi()))
  })
  app.get('/api/reference/', ({ path: address }, response) => {
    if (address.endsWith('/')) response.type('html').send(page)
    else response.redirect('/api/reference/')
  })
  app.get('/api/reference/start.js', (_request, response) => {
    response.type('js').send(start)
  })
  app.get('/api/reference/look.css', (_request, response) => {
    response.type('css').send(look)
  })
  app.use('/api/reference/reader', express.static(reader, { index: false, maxAge: '1d' }))
}
