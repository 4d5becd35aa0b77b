import { Validator } from '@seriousme/openapi-schema-validator'
import request from 'supertest'
import { type Route, routes } from '@climber/contract'
import { type Database } from '../src/database'
import { openApi } from '../src/reference'
import { type App, appOn, freshDatabase } from './harness'

type Operation = {
  operationId: string
  security: object[]
  parameters?: { name: string }[]
  requestBody?: object
  responses: Record<string, object>
}
const paths = () => openApi().paths as unknown as Record<string, Record<string, Operation>>

describe('the OpenAPI document', () => {
  it('is one, by an independent validator', async () => {
    const result = await new Validator().validate(JSON.parse(JSON.stringify(openApi())))
    expect(result).toMatchObject({ valid: true })
  })

  it.each(Object.entries(routes) as [string, Route][])(
    'has the route %s with its parameters, body and right',
    (name, { method, path, right }) => {
      const found = paths()[path.replace(/:(\w+)/g, '{$1}')]?.[method.toLowerCase()]
      expect(found?.operationId).toBe(name)
      expect(found!.parameters?.map((one) => one.name) ?? []).toEqual(
        [...path.matchAll(/:(\w+)/g)].map(([, parameter]) => parameter),
      )
      expect('401' in found!.responses).toBe(right !== 'anyone')
      expect(found!.security.length > 0).toBe(right !== 'anyone')
      if (method === 'GET') expect(found!.requestBody).toBeUndefined()
    },
  )

  it('says what a change of a part asks for and may be refused with', () => {
    const save = paths()['/api/candidates/{candidateId}/parts/{part}']!.put!
    expect(JSON.stringify(save.requestBody)).toContain('"version"')
    expect(Object.keys(save.responses)).toEqual(
      expect.arrayContaining(['200', '401', '403', '404', '409', '422']),
    )
  })

  it('points only to what is there', () => {
    const document = openApi()
    for (const [, name] of JSON.stringify(document).matchAll(/"#\/components\/schemas\/([^"/]+)/g))
      expect(Object.keys(document.components!.schemas!)).toContain(name)
  })
})

describe('the page to read it on', () => {
  let database: Database
  let app: App
  beforeAll(async () => {
    database = await freshDatabase()
    app = appOn(database)
  })
  afterAll(() => database.sequelize.close())

  it('is served with all that it asks for from this server', async () => {
    const { text } = await request(app).get('/api/reference/').expect(200)
    const asked = [...text.matchAll(/(?:src|href)="([^":]+)"/g)].map(([, address]) => address!)
    expect(asked).toHaveLength(4)
    for (const address of asked) await request(app).get(`/api/reference/${address}`).expect(200)
    const { body } = await request(app).get('/api/openapi.json').expect(200)
    expect(body).toEqual(JSON.parse(JSON.stringify(openApi())))
    await request(app).get('/api/reference').expect('location', '/api/reference/')
  })
})
