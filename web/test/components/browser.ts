/** What jsdom lacks of a browser, as far as the components ask for it. */
class Observer {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
Object.assign(globalThis, {
  __VUE_OPTIONS_API__: true,
  __VUE_PROD_DEVTOOLS__: false,
  __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: false,
  CSS: { supports: () => false },
  ResizeObserver: Observer,
  IntersectionObserver: Observer,
  visualViewport: new EventTarget(),
  matchMedia: () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }),
  structuredClone: (value: unknown) => JSON.parse(JSON.stringify(value)) as unknown,
})
AbortSignal.timeout ??= () => new AbortController().signal
Element.prototype.scrollIntoView = () => undefined
