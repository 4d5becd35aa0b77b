import fc from 'fast-check'
import {
  changedSince,
  examRights,
  type PartName,
  partFrom,
  partNames,
  recordRights,
  Role,
  versionsOf,
} from '../src/index'

const versions = fc.dictionary(fc.constantFrom(...partNames), fc.integer({ min: 0, max: 9 }))
const stored = fc.record({
  parts: versions.map((all) =>
    Object.fromEntries(Object.entries(all).map(([part, version]) => [part, { version }])),
  ),
  plan: fc.option(
    fc.record({
      version: fc.integer({ min: 1, max: 9 }),
      sessions: fc.array(fc.record({ version: fc.integer({ min: 1, max: 9 }) }), { maxLength: 5 }),
    }),
  ),
  attempts: fc.uniqueArray(fc.record({ id: fc.uuid(), version: fc.integer({ min: 1, max: 9 }) }), {
    selector: ({ id }) => id,
    maxLength: 4,
  }),
  review: fc.array(fc.record({ version: fc.integer({ min: 1, max: 9 }) }), { maxLength: 4 }),
  recalled: fc.record({ version: fc.integer({ min: 0, max: 9 }) }),
})

describe('what a preview rests on', () => {
  it('holds while nothing was stored since', () => {
    fc.assert(
      fc.property(stored, (all) => expect(changedSince(versionsOf(all), versionsOf(all))).toEqual([])),
    )
  })

  it('names what was stored since, whatever it was, once', () => {
    fc.assert(
      fc.property(stored, fc.constantFrom(...partNames), (all, part: PartName) => {
        const later = {
          ...all,
          parts: { ...all.parts, [part]: { version: (all.parts[part]?.version ?? 0) + 1 } },
        }
        expect(changedSince(versionsOf(all), versionsOf(later))).toEqual([part])
      }),
    )
    fc.assert(
      fc.property(stored, fc.uuid(), fc.uuid(), (all, one, other) => {
        fc.pre(one !== other && all.attempts.every(({ id }) => id !== one && id !== other))
        const more = [one, other].map((id) => ({ id, version: 1 }))
        const later = { ...all, attempts: [...all.attempts, ...more] }
        expect(changedSince(versionsOf(all), versionsOf(later))).toEqual(['what was sat'])
      }),
    )
  })

  it('sees one session of the plan change', () => {
    fc.assert(
      fc.property(stored, fc.nat(), (all, pick) => {
        const { plan } = all
        fc.pre(Boolean(plan?.sessions.length))
        const at = pick % plan!.sessions.length
        const sessions = plan!.sessions.map((one, index) =>
          index === at ? { version: one.version + 1 } : one,
        )
        const later = { ...all, plan: { ...plan!, sessions } }
        expect(changedSince(versionsOf(all), versionsOf(later))).toEqual(['sessions'])
      }),
    )
  })
  it('sees a note of a review written', () => {
    fc.assert(
      fc.property(stored, (all) => {
        const later = { ...all, review: [...all.review, { version: 1 }] }
        expect(changedSince(versionsOf(all), versionsOf(later))).toEqual(['review'])
      }),
    )
  })
  it('sees what was recalled', () => {
    fc.assert(
      fc.property(stored, (all) => {
        const later = { ...all, recalled: { version: all.recalled.version + 1 } }
        expect(changedSince(versionsOf(all), versionsOf(later))).toEqual(['what was recalled'])
      }),
    )
  })
  it('a part that was never stored is the same as one at version 0', () => {
    const none = { parts: {}, plan: null, attempts: [], review: [], recalled: { version: 0 } }
    expect(versionsOf({ ...none, parts: { target: { version: 0 } } })).toEqual(versionsOf(none))
  })
})

describe('rights', () => {
  it('nobody may do more than an owner, and who may do anything may read', () => {
    for (const role of Role.options) {
      expect(recordRights.owner).toEqual(expect.arrayContaining([...recordRights[role]]))
      expect(examRights.owner).toEqual(expect.arrayContaining([...examRights[role]]))
      expect(recordRights[role]).toContain('read')
      expect(examRights[role]).toContain('read')
    }
  })
  it('only an owner deletes, and a reader only reads', () => {
    for (const role of Role.options) {
      expect(recordRights[role].includes('delete')).toBe(role === 'owner')
      expect(examRights[role].includes('delete')).toBe(role === 'owner')
    }
    expect(recordRights.reader).toEqual(['read'])
    expect(examRights.reader).toEqual(['read'])
  })
})

describe('the registry of parts', () => {
  it('each part stands for itself before anybody wrote it, and once written is the same', () => {
    for (const part of partNames) {
      const blank = partFrom(part)
      expect(partFrom(part, blank)).toEqual(blank)
    }
  })
  it('keeps keys that it does not know, and fills in the defaults that are missing', () => {
    for (const part of partNames) {
      const written = part === 'candidate' ? { name: 'Orla Venn', tide: 1 } : { tide: 1 }
      const read: Record<string, unknown> = { ...partFrom(part, written) }
      expect(read['tide']).toBe(1)
      expect(Object.keys(read)).toEqual(expect.arrayContaining(Object.keys(partFrom(part))))
    }
  })
})
