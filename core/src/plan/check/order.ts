import { begins, type Rule } from './facts'

/** No topic is begun before what it builds on, where this plan placed both. */
export const prerequisitesFirst: Rule = ({ input, live, keptIds }, fail) => {
  const begun = new Map<string, { start: number; placed: boolean }>()
  for (const session of live)
    for (const topic of 'topics' in session ? session.topics : [])
      if (!begun.has(topic)) begun.set(topic, { start: begins(session), placed: !keptIds.has(session.id) })
  for (const topic of input.exam.topics) {
    const own = begun.get(topic.id)
    if (!own?.placed || input.begun.includes(topic.id)) continue
    for (const needed of topic.prerequisites) {
      const before = begun.get(needed)
      if (before?.placed && before.start >= own.start && !input.begun.includes(needed))
        fail('order', `${topic.id} is begun before ${needed}, which it builds on`)
    }
  }
}
