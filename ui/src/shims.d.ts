declare module '*.vue' {
  import type { DefineComponent } from 'vue'
  const component: DefineComponent
  export default component
}
declare module '@fontsource-variable/*'
declare module 'vuetify/styles'
