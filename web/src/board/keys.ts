/** What the bench provides to cards deep inside the board. */
import type { InjectionKey, Ref } from 'vue'

/** Names of the project's shapes. */
export const shapesKey: InjectionKey<Ref<string[]>> = Symbol('shapes')

/** Opens the text of a script card in the drawer. */
export const scriptKey: InjectionKey<(node: string) => void> = Symbol('script')
