/// <reference types="vite/client" />
declare module '@fontsource-variable/*'

/** For tools that do not read Vue files: a component, of which nothing else is known. */
declare module '*.vue' {
  import type { Component } from 'vue'
  const component: Component
  export default component
}
