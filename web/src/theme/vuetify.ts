import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/** Chalk and ink; the accents are darkened from the palette of docs/interface.md until text in them passes AA. */
const light = {
  dark: false,
  colors: {
    background: '#F6F4EE',
    surface: '#FBFAF6',
    'surface-variant': '#E6E2D6',
    'on-background': '#20302E',
    'on-surface': '#20302E',
    primary: '#2C5A6E',
    secondary: '#4A6639',
    accent: '#7D4F0B',
    error: '#98401F',
    warning: '#7D4F0B',
    success: '#4A6639',
    info: '#2C5A6E',
  },
}
const dark = {
  dark: true,
  colors: {
    background: '#182220',
    surface: '#1F2B28',
    'surface-variant': '#33413D',
    'on-background': '#ECE8DC',
    'on-surface': '#ECE8DC',
    primary: '#8FC1D6',
    secondary: '#A9C794',
    accent: '#E0B26A',
    error: '#EE9C80',
    warning: '#E0B26A',
    success: '#A9C794',
    info: '#8FC1D6',
    'on-primary': '#10201F',
  },
}

const nonce = document.querySelector('meta[name="csp-nonce"]')?.getAttribute('content') ?? undefined
const kept = localStorage.getItem('climber.theme')

/** The label stands above from the start: it does not jump, and fields in a row stand alike. */
const field = { variant: 'underlined', density: 'compact', hideDetails: 'auto', persistentPlaceholder: true }

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: { cspNonce: nonce, defaultTheme: kept ?? 'system', themes: { light, dark } },
  defaults: {
    global: { ripple: false },
    VBtn: { variant: 'outlined', rounded: '0', elevation: 0, size: 'small', class: 'act' },
    VTextField: { ...field },
    VTextarea: { ...field, autoGrow: true },
    VSelect: { ...field },
    VAutocomplete: { ...field },
    VCard: { rounded: '0', elevation: 0 },
    VMenu: { transition: false },
    VDialog: { transition: false },
  },
})
