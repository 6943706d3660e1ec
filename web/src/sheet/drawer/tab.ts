import type { Component } from 'vue'

/** What the drawer can show under one of its tabs. */
export interface DrawerTab {
  readonly id: string
  /** How high the drawer is with it, as a class. */
  readonly height: string
  readonly component: Component
  /** Read while the sheet is drawn: undefined while there is nothing to show under it. */
  use(): () =>
    { readonly name: string; readonly title: string; readonly props?: object; readonly empty?: true } | undefined
}
