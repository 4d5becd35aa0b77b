import { mount } from '@vue/test-utils'
import { type Component, h, ref, type Ref } from 'vue'
import { createVuetify } from 'vuetify'
import * as components from 'vuetify/components'

/** A component of the kit in a page, with its model; `value` is what it gave last. */
export function shown<T>(component: Component, first: T, props: Record<string, unknown> = {}) {
  const value = ref(first) as Ref<T>
  const page = mount(
    {
      render: () =>
        h(components.VApp, () =>
          h(component, {
            ...props,
            modelValue: value.value,
            'onUpdate:modelValue': (now: T) => (value.value = now),
          }),
        ),
    },
    {
      global: { plugins: [createVuetify({ components, defaults: { global: { transition: false } } })] },
      attachTo: document.body,
    },
  )
  const input = () => page.get('input')
  const errors = () => page.findAll('.v-messages__message').map((one) => one.text())
  return {
    page,
    value,
    input,
    /** Types in place of what stands there, and leaves the field. */
    async type(text: string, leave = true): Promise<void> {
      await input().setValue(text)
      if (leave) await input().trigger('blur')
      // A field says one thing at a time; what it said before may still be fading.
      for (let waited = 0; errors().length > 1 && waited < 200; waited++)
        await new Promise((resolve) => setTimeout(resolve, 10))
    },
    errors,
  }
}
