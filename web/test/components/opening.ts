import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import * as Comlink from 'comlink'
import { createPinia, setActivePinia } from 'pinia'
import { MessageChannel } from 'node:worker_threads'
import { type Component, h } from 'vue'
import { createMemoryHistory, createRouter, type Router } from 'vue-router'
import { createVuetify } from 'vuetify'
import * as components from 'vuetify/components'
import { allParts } from '../../src/places'
import { useSession } from '../../src/stores/session'
import { useWorkspace } from '../../src/stores/workspace'
import { answering } from '../../src/workers/answering'
import type { Served } from './serving'

/** The core behind a channel, as a worker has it: what goes there and back is copied. */
class WorkerHere {
  constructor() {
    const { port1, port2 } = new MessageChannel()
    Comlink.expose(answering, port1 as unknown as Comlink.Endpoint)
    // It must not keep the process alive, as a worker of a closed page does not.
    for (const port of [port1, port2]) {
      port.unref()
      port.ref = () => undefined
    }
    return Object.assign(port2, { terminate: () => port2.close() }) as unknown as WorkerHere
  }
}

/** A browser of its own, signed in at a server. */
export async function browserAt(served: Served): Promise<{ router: Router }> {
  Object.assign(globalThis, { fetch: served.fetch, Worker: WorkerHere })
  localStorage.clear()
  setActivePinia(createPinia())
  const nowhere = { render: () => h('div') }
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', name: 'roster', component: nowhere },
      { path: '/new', name: 'new', component: nowhere },
      { path: '/exams', name: 'exams', component: nowhere },
      { path: '/exams/:examId', name: 'exam', component: nowhere },
      ...[...allParts.map(({ name }) => name), 'review-again', 'review-print'].map((name) => ({
        path: `/c/:candidateId/${name}`,
        name,
        component: nowhere,
      })),
    ],
  })
  await useSession().load()
  return { router }
}

/** What a person sees of a screen, found by the words on it. */
export class Page {
  constructor(
    readonly wrapper: VueWrapper,
    readonly router: Router,
  ) {}
  /** Everything that is shown, dialogs and menus included. */
  text(): string {
    return (document.body.textContent ?? '').replace(/\s+/g, ' ')
  }
  private among(
    selector: string,
    words: string | RegExp,
    name: (element: HTMLElement) => string,
  ): HTMLElement[] {
    return [...document.body.querySelectorAll<HTMLElement>(selector)].filter((element) =>
      typeof words === 'string' ? name(element) === words : words.test(name(element)),
    )
  }
  /** The only one of what was found. */
  one(what: string, found: HTMLElement[]): HTMLElement {
    const [first, second] = found
    if (!first || second) throw new Error(`${found.length} of ${what}: ${this.text().slice(0, 2000)}`)
    return first
  }
  button(words: string | RegExp, within = ''): HTMLElement {
    const named = (element: HTMLElement) =>
      element.getAttribute('aria-label') ?? (element.textContent ?? '').trim().replace(/\s+/g, ' ')
    return this.one(`button ${String(words)}`, this.among(`${within} button, ${within} a`, words, named))
  }
  async press(words: string | RegExp, within = ''): Promise<void> {
    this.button(words, within).click()
    await this.settle()
  }
  field(words: string | RegExp): HTMLInputElement {
    const named = (element: HTMLElement) =>
      element.getAttribute('aria-label') ??
      document.querySelector(`label[for="${element.id}"]`)?.textContent?.trim() ??
      element.closest('label')?.textContent?.trim() ??
      ''
    return this.one(
      `field ${String(words)}`,
      this.among('input, select, textarea', words, named),
    ) as HTMLInputElement
  }
  async write(words: string | RegExp, text: string): Promise<void> {
    const field = this.field(words)
    field.value = text
    field.dispatchEvent(new Event('input', { bubbles: true }))
    field.dispatchEvent(new Event('change', { bubbles: true }))
    field.dispatchEvent(new Event('blur'))
    await this.settle()
  }
  byTestId(id: string): string {
    return (
      this.one(id, [...document.body.querySelectorAll<HTMLElement>(`[data-testid="${id}"]`)]).textContent ??
      ''
    )
  }
  /** Lets go what is under way; a worker's answer comes a little later. */
  async settle(): Promise<void> {
    await flushPromises()
    await new Promise((resolve) => setTimeout(resolve, 5))
    await flushPromises()
  }
  /** Waits until something holds. */
  async until(holds: () => unknown, most = 20_000): Promise<void> {
    for (const begun = Date.now(); Date.now() - begun < most;) {
      await this.settle()
      let held: unknown
      try {
        held = holds()
      } catch {
        held = false
      }
      if (held) return
    }
    throw new Error(`it never came: ${String(holds)}; the page says ${this.text().slice(0, 2000)}`)
  }
}

/** A screen of a candidate, open in a browser of its own. */
export async function opened(screen: Component, served: Served, candidateId: string): Promise<Page> {
  const { router } = await browserAt(served)
  await router.push(`/c/${candidateId}/today`)
  const workspace = useWorkspace()
  await workspace.load(candidateId)
  if (workspace.failed) throw new Error(workspace.failed)
  const wrapper = mount(
    { render: () => h(components.VApp, () => h(screen)) },
    {
      global: {
        plugins: [router, createVuetify({ components, defaults: { global: { transition: false } } })],
      },
      attachTo: document.body,
    },
  )
  const page = new Page(wrapper, router)
  await page.until(() => workspace.overview)
  return page
}

/** Leaves the browser, with everything in it. */
export function closed(page: Page): void {
  page.wrapper.unmount()
  useWorkspace().close()
  document.body.innerHTML = ''
}
