import { jest } from '@jest/globals'
import type { Candidate } from '@climber/contract'
import { h, ref } from 'vue'
import Gap from '../../src/screens/gap/Gap.vue'
import Roster from '../../src/screens/roster/Roster.vue'
import LogTest from '../../src/screens/scores/LogTest.vue'
import SetUp from '../../src/screens/set-up/SetUp.vue'
import Today from '../../src/screens/today/Today.vue'
import { useSession } from '../../src/stores/session'
import { useWorkspace } from '../../src/stores/workspace'
import { answering } from '../../src/workers/answering'
import { browserAt, closed, opened, type Page } from './opening'
import { demoCandidates, Refusal, Served, today } from './serving'

jest.setTimeout(240_000)
const all = await demoCandidates()
const fresh = (name: string): Candidate => structuredClone(all.get(name) as Candidate)
let page: Page | undefined
afterEach(() => {
  if (page) closed(page)
  page = undefined
})

describe('the list of plans', () => {
  it('comes by itself when a server that took too long answers again', async () => {
    const idrel = fresh('Idrel Pellowick')
    let away = true
    const row = { id: idrel.id, name: 'Idrel Pellowick', examTitle: idrel.exam.title, mine: false }
    const served = new Served([idrel], {
      listCandidates: () => {
        if (away) throw new TypeError('failed to fetch')
        const figures = {
          odds: null,
          oddsAtRate: null,
          forecast: null,
          target: null,
          lastScore: null,
          examDate: null,
        }
        const lately = {
          lastWork: null,
          week: { planned: 0, done: 0 },
          weekday: null,
          before: null,
          topic: null,
        }
        return [{ ...row, ...figures, slippedMinutes: 0, nextTest: null, lately }]
      },
    })
    page = await opened(Roster, served, idrel.id)
    await page.until(() => page!.text().includes('The server does not answer.'))
    away = false
    await useSession().load()
    await page.until(() => page!.text().includes('Idrel Pellowick'))
    expect(page.text()).not.toContain('does not answer')
  })
})

describe('Today', () => {
  const open = async () => {
    const served = new Served([fresh('Wenna Tarrowby')])
    page = await opened(Today, served, served.candidates[0]!.id)
    return { served, page, title: () => page!.byTestId('next-title') }
  }
  it('keeps what became of a session, and takes it back', async () => {
    const { served, page, title } = await open()
    const first = title()
    await page.press('Skip')
    await page.until(() => title() !== first)
    await page.press('Planned again', 'tr')
    await page.until(() => title() === first)
    await page.press('Slipped')
    await page.until(() => /slipped/.test(page.text()) && title() !== first)
    await page.press('Planned again', 'tr')
    await page.until(() => title() === first)
    await page.until(() => served.of('saveSession').length === 4)
    expect(served.of('saveSession').map(({ body }) => body.status)).toEqual([
      'skipped',
      'planned',
      'slipped',
      'planned',
    ])
    expect(new Set(served.of('saveSession').map(({ body }) => body.request)).size).toBe(4)
  })
  it('asks for the minutes of what is done', async () => {
    const { served, page, title } = await open()
    const first = title()
    await page.write(`Minutes spent on ${first}`, '0')
    await page.press('Done')
    expect(page.text()).toContain('Write how many minutes it took, from 1 to 1440.')
    expect(page.field(`Minutes spent on ${first}`).value).toBe('0')
    await page.write(`Minutes spent on ${first}`, '45')
    await page.press('Done')
    await page.until(() => page.text().includes('Done, 45 minutes.'))
    await page.until(() => served.of('saveSession').length === 1)
    expect(served.of('saveSession')[0]!.body).toMatchObject({ status: 'done', minutesDone: 45, version: 1 })
    await page.press('Not done after all')
    await page.until(() => title() === first)
  })
  it('says once the exam is over that it is, and nothing of days that are left', async () => {
    const served = new Served([fresh('Maudra Okonby')])
    served.answers.session = () => ({ ...served.own.session(), now: '2031-06-01T10:00:00.000Z' })
    page = await opened(Today, served, served.candidates[0]!.id)
    await page.until(() => page!.text().includes('The exam was on'))
    expect(page.text()).not.toMatch(/Slipped|mend the plan|Not today|in \d+ days/)
  })
  it('says what of the shelf, or of a paper, is worked through', async () => {
    const served = new Served([fresh('Wenna Tarrowby')])
    const { sessions } = served.candidates[0]!.plan!
    const due = sessions.filter(({ date, status }) => date === today && status === 'planned')
    expect(due.length).toBeGreaterThan(1)
    for (const [at, one] of due.entries())
      Object.assign(one, { material: { id: 'tidewise-9', form: 'tidewise-9', text: `${at + 6} questions` } })
    page = await opened(Today, served, served.candidates[0]!.id)
    for (const at of due.keys()) expect(page.text()).toContain(`${at + 6} questions`)
  })
  it('leaves the rest of what was done in part to a re-plan', async () => {
    const { served, page, title } = await open()
    const first = title()
    await page.write(`Minutes spent on ${first}`, '15')
    await page.press('Done')
    await page.until(() => page.text().includes('minutes short of the plan'))
    await page.press('The rest another day')
    await page.until(() => /A re-plan finds a place for \d+ minutes/.test(page.text()))
    await page.until(() => page.byTestId('why-mend').includes('The rest of one session waits for a place.'))
    await page.until(() => served.of('saveSession').length === 2)
    expect(served.of('saveSession')[1]!.body['restMinutes']).toBeGreaterThan(9)
    await page.press('The rest another day')
    await page.until(() => !page.text().includes('A re-plan finds a place'))
    await page.until(() => served.of('saveSession').length === 3)
    expect(served.of('saveSession')[2]!.body).not.toHaveProperty('restMinutes')
  })
  it('goes on saying what is wrong when what was pressed before is confirmed', async () => {
    let confirm: () => void = () => undefined
    const { served, page, title } = await open()
    const store = served.own.saveSession
    served.answers = {
      saveSession: async (params, body) => {
        await new Promise<void>((resolve) => (confirm = resolve))
        return store(params, body)
      },
    }
    const first = title()
    await page.press('Skip')
    await page.press('Planned again', 'tr')
    await page.until(() => title() === first)
    await page.write(`Minutes spent on ${first}`, '0')
    await page.press('Done')
    await page.until(() => {
      confirm()
      return useWorkspace().waiting.length === 0
    })
    expect(page.text()).toContain('Write how many minutes it took')
    expect(page.field(`Minutes spent on ${first}`).value).toBe('0')
  })
  it('shows what is done at once where the server is away, and sends it when it is back', async () => {
    const { served, page } = await open()
    served.away = true
    await page.press('Done')
    await page.until(() => /Done, \d+ minutes/.test(page.text()))
    expect(served.of('saveSession')).toHaveLength(0)
    served.away = false
    await page.until(() => served.of('saveSession').length === 1, 60_000)
  })
})

describe('Log a test', () => {
  const shown = ref(true)
  const Dialog = {
    render: () =>
      h(LogTest, { modelValue: shown.value, 'onUpdate:modelValue': (now: boolean) => (shown.value = now) }),
  }
  const sections = ['Tides and streams', 'Passage work', 'Lights, marks and signals']
  const open = async (answers = {}) => {
    shown.value = false
    const served = new Served([fresh('Maudra Okonby')], answers)
    page = await opened(Dialog, served, served.candidates[0]!.id)
    shown.value = true
    await page.until(() => page!.field('Tides and streams: right'))
    return { served, page }
  }
  const count = async (on: Page) => {
    for (const [section, right, wrong, blank] of [
      [sections[0], 20, 12, 8],
      [sections[1], 15, 9, 6],
      [sections[2], 28, 11, 6],
    ] as const) {
      await on.write(`${section}: right`, String(right))
      await on.write(`${section}: wrong`, String(wrong))
      await on.write(`${section}: left blank`, String(blank))
    }
  }
  it('says of each section what is missing or too many, and keeps what was typed', async () => {
    const { served, page } = await open()
    await page.write('Tides and streams: right', '60')
    await page.press('Keep it')
    await page.until(() => /60 of 40: 20 too many/.test(page.text()))
    expect(page.text()).toContain('the counts of Passage work are missing')
    expect(page.field('Tides and streams: right').value).toBe('60')
    expect(served.of('saveAttempt')).toHaveLength(0)
  })
  it('is kept once, with what was typed', async () => {
    const { served, page } = await open()
    await count(page)
    await page.press('Keep it')
    await page.until(() => !shown.value)
    expect(served.of('saveAttempt')).toHaveLength(1)
    expect(served.of('saveAttempt')[0]!.body).toMatchObject({
      version: 0,
      attempt: {
        kind: 'practice',
        counts: { groups: { 'streams-items': { right: 20, wrong: 12, blank: 8 } } },
      },
    })
    expect(Object.keys(localStorage)).not.toContain(`climber.draft.${served.candidates[0]!.id}.test`)
  })
  it('half typed is there again when it is opened again', async () => {
    const { page } = await open()
    await page.write('Passage work: right', '21')
    await page.press('Not now')
    await page.until(() => !shown.value)
    shown.value = true
    await page.until(() => page.field('Passage work: right').value === '21')
  })
  it('shows at its field what the server has against it', async () => {
    const { page } = await open({
      saveAttempt: () => {
        throw new Refusal({
          code: 'invalid',
          message: 'The test does not fit.',
          issues: [{ field: 'attempt.date', message: 'that day is still to come' }],
        })
      },
    })
    await count(page)
    await page.press('Keep it')
    await page.until(() => page.text().includes('that day is still to come'))
    expect(shown.value).toBe(true)
    expect(page.field('Tides and streams: right').value).toBe('20')
  })
})

describe('Set-up', () => {
  it('takes the sitting that looks chosen as chosen, and says which steps are open', async () => {
    const candidate = fresh('Wenna Tarrowby')
    candidate.plan = null
    candidate.parts.target = { document: { scaled: 312 }, version: 1, changedBy: null, changedAt: null }
    candidate.parts.availability = { document: {}, version: 1, changedBy: null, changedAt: null }
    page = await opened(SetUp, new Served([candidate]), candidate.id)
    const step = (title: string) =>
      page!.one(
        title,
        [...document.querySelectorAll<HTMLElement>('[role=tab]')].filter((tab) =>
          tab.textContent!.includes(title),
        ),
      )
    await page.until(() => step('Free time').textContent!.includes('open'))
    expect(step('Target').textContent).not.toContain('open')
    expect(page.text()).toContain('Still open: free time.')
  })
})

describe('Free time', () => {
  const open = async () => {
    const candidate = fresh('Wenna Tarrowby')
    candidate.parts.availability!.document = {
      ...(candidate.parts.availability!.document as object),
      zone: 'Etc/UTC',
    }
    const served = new Served([candidate], {
      listCountries: () => [
        { id: 'AA', title: 'Aestland', regions: [], zones: ['Etc/UTC'] },
        { id: 'BB', title: 'Borrowmark', regions: [], zones: [] },
      ],
      listHolidays: ({ region, from }) => [{ date: from, title: `First day of ${region}` }],
    })
    page = await opened(SetUp, served, candidate.id)
    page
      .one(
        'tab',
        [...document.querySelectorAll<HTMLElement>('[role=tab]')].filter((tab) =>
          tab.textContent!.startsWith('Free time'),
        ),
      )
      .click()
    await page.until(() => served.of('listCountries').length === 1)
    const saved = (part: string) =>
      candidate.parts[part as 'availability']?.document as Record<string, unknown> | undefined
    return { served, page, saved }
  }
  it('takes public holidays in as a hint, and none of them is worked on until that is agreed', async () => {
    const { served, page, saved } = await open()
    await page.press('Add its holidays')
    await page.until(() => page.text().includes('First day of AA'))
    expect(served.of('listHolidays')[0]!.params).toMatchObject({ region: 'AA', from: today })
    await page.until(() => saved('availability')!['holidays'])
    expect(saved('availability')!['holidays']).toEqual([{ date: today, title: 'First day of AA' }])
    page.field(/Work on First day of AA/).click()
    await page.until(() => (saved('availability')!['holidays'] as { work?: boolean }[])[0]!.work)
    await page.press('Add its holidays')
    await page.until(() => page.text().includes('None that is not in the list.'))
    await page.press(/Remove First day of AA/)
    await page.until(() => saved('availability')!['holidays'] === undefined)
  })
  it('goes round what is on every week, and says what is wrong with what was typed', async () => {
    const { page, saved } = await open()
    // The last part of a long form is drawn a little later.
    await page.until(() => page.text().includes('On every week'))
    await page.write('Ends', '17:00')
    await page.press('Add it')
    expect(page.text()).toContain('Write what it is.')
    expect(page.text()).toContain('It must end after it starts.')
    await page.write('What is on', 'Choir')
    await page.write('Ends', '19:30')
    await page.press('Add it')
    await page.until(() => saved('commitments')?.['weekly'])
    expect(saved('commitments')!['weekly']).toEqual([
      { title: 'Choir', weekday: 1, from: '18:00', to: '19:30' },
    ])
    await page.press('Remove Choir')
    await page.until(() => saved('commitments')!['weekly'] === undefined)
  })
})

describe('Gap', () => {
  it('asks for other losses where another score is wanted', async () => {
    const served = new Served([fresh('Idrel Pellowick')])
    page = await opened(Gap, served, served.candidates[0]!.id)
    const needed = () => /Raw [\d.]+ needed/.exec(page!.text())?.[0]
    await page.until(needed)
    const before = needed()
    await page.write('Tides and streams: scaled score wanted', '120')
    await page.until(() => needed() !== before)
  })
})

describe('the open candidate', () => {
  it('sends the worker what changed and nothing else', async () => {
    const served = new Served([fresh('Idrel Pellowick')])
    page = await opened(Today, served, served.candidates[0]!.id)
    const workspace = useWorkspace()
    const before = workspace.overview
    const sent: string[][] = []
    const { ask } = answering
    answering.ask = (name, now, asked, changed) => {
      sent.push(Object.keys(changed ?? {}))
      return ask(name, now, asked, changed)
    }
    try {
      workspace.saves!.target.edit((target) => (target.scaled = 301))
      await page.until(() => workspace.overview !== before && !workspace.waiting.length)
    } finally {
      answering.ask = ask
    }
    expect(sent.filter((keys) => keys.length)).toEqual([['target']])
  })
  it('is the one asked for last, whichever answer comes last', async () => {
    const [slow, quick] = [fresh('Wenna Tarrowby'), fresh('Maudra Okonby')]
    let answer: () => void = () => undefined
    const late = new Promise<void>((resolve) => (answer = resolve))
    const served = new Served([slow, quick], {
      readCandidate: async ({ candidateId }) => {
        if (candidateId !== slow.id) return quick
        await late
        return slow
      },
    })
    await browserAt(served)
    const workspace = useWorkspace()
    const first = workspace.load(slow.id)
    await workspace.load(quick.id)
    answer()
    await first
    expect(workspace.name).toBe('Maudra Okonby')
    expect(workspace.failed).toBe('')
    expect(workspace.today).toBe(today)
    workspace.close()
  })
})
