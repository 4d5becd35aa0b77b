import { ref, type Ref } from 'vue'
import { isPassing } from '../src/api'
import type { Entry } from '../src/outbox/entry'
import type { Journal } from '../src/outbox/journal'
import { inMemory, type Keeper } from '../src/outbox/keeper'
import { Outbox } from '../src/outbox/outbox'

interface Made {
  send: (entry: Entry) => Promise<unknown>
  keeper?: Keeper
  offline?: Ref<boolean>
  renew?: () => Promise<void>
  journal?: Journal
}

/** An outbox of one tab, with `send` for the server; a failing one counts as away, as api.ts does. */
export async function makeBox({
  send,
  keeper = inMemory(),
  offline = ref(false),
  renew,
  journal,
}: Made): Promise<Outbox> {
  const box = new Outbox(keeper, {
    send: (entry) =>
      send(entry).catch((error: unknown) => {
        if (isPassing(error)) offline.value = true
        throw error
      }),
    renew: renew ?? (() => Promise.resolve()),
    offline,
    alone: (work) => work(),
    ...(journal && { journal }),
  })
  await box.belongsTo('somebody')
  return box
}
