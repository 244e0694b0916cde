/** What the bench provides to cards deep inside the board. */
import type { Component, InjectionKey, Ref } from 'vue'
import type { Way } from '../model/layout'
import type { Pair } from '../model/parameterLinks'

/** Names of the project's shapes. */
export const shapesKey: InjectionKey<Ref<string[]>> = Symbol('shapes')

/** Opens the text of a script card in the drawer. */
export const scriptKey: InjectionKey<(node: string) => void> = Symbol('script')

/** Who follows whom in the graph that is worked on. */
export const tiesKey: InjectionKey<Ref<Map<string, Pair[]>>> = Symbol('ties')

/** Where a wire ends at a parameter: cards have such places, lanes show wires in their strip. */
export const wireEndKey: InjectionKey<Component> = Symbol('wire end')

/** Which way the wires of cards run: down, or across. */
export const wayKey: InjectionKey<Ref<Way>> = Symbol('way')

/** Opens the form in which a folded card is published. */
export const publishKey: InjectionKey<(node: string) => void> = Symbol('publish')

/** Makes a linked copy of a card. */
export const linkKey: InjectionKey<(node: string) => void> = Symbol('link')

/** Adds a card after the one that is looked at. */
export const addCardKey: InjectionKey<(operator: string, parameters?: Record<string, unknown>) => void> =
  Symbol('add card')
