/** Where a text stands, for fields deep inside a card. */
import type { InjectionKey } from 'vue'

export const textPlaceKey: InjectionKey<{ node: string; prefix?: string }> = Symbol('text place')
