import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { createVuetify } from 'vuetify'

/** The one place where the kit's defaults become ours: paper, glass and ink, terracotta for the next act. */
const variables = { 'medium-emphasis-opacity': 0.78, 'high-emphasis-opacity': 1, 'border-opacity': 0.16 }

export const makeVuetify = () =>
  createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
    theme: {
      defaultTheme: 'system',
      themes: {
        light: {
          dark: false,
          colors: {
            background: '#f4efe3',
            surface: '#fbf8f0',
            'on-background': '#1f2f29',
            'on-surface': '#1f2f29',
            primary: '#a8481f',
            'on-primary': '#ffffff',
            secondary: '#1f2f29',
            'on-secondary': '#f4efe3',
            error: '#a5261a',
            'on-error': '#ffffff',
            success: '#2b7648',
            'on-success': '#ffffff',
            info: '#4d6071',
            'on-info': '#ffffff',
            warning: '#7d5700',
            'on-warning': '#ffffff',
          },
          variables,
        },
        dark: {
          dark: true,
          colors: {
            background: '#16201c',
            surface: '#1d2924',
            'on-background': '#ece6d6',
            'on-surface': '#ece6d6',
            primary: '#e58a5c',
            'on-primary': '#1b120c',
            secondary: '#ece6d6',
            'on-secondary': '#16201c',
            error: '#f2897d',
            'on-error': '#1b120c',
            success: '#7cc79b',
            'on-success': '#1b120c',
            info: '#a3b8c9',
            'on-info': '#1b120c',
            warning: '#e0b450',
            'on-warning': '#1b120c',
          },
          variables,
        },
      },
    },
    defaults: {
      global: { ripple: false },
      VBtn: { rounded: 'lg', variant: 'flat', class: 'cj-btn' },
      VBtnToggle: { rounded: 'lg', divided: true, variant: 'outlined' },
      VTextField: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto', rounded: 'lg', bgColor: 'surface' },
      VTextarea: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto', rounded: 'lg', bgColor: 'surface' },
      VSelect: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto', rounded: 'lg', bgColor: 'surface' },
      VCombobox: { variant: 'outlined', density: 'comfortable', hideDetails: 'auto', rounded: 'lg', bgColor: 'surface' },
      VCard: { rounded: 'lg', elevation: 0, border: true },
      VDialog: { maxWidth: 560 },
    },
  })
