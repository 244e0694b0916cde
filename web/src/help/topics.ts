/** What a control is about: the nearest `data-help` around it names a page of the documentation, or an operator. */

export interface OperatorTopic {
  operator: string
  parameter: string
}

/** `page.html#section` of the documentation, or an operator with the parameter that is meant. */
export type Topic = string | OperatorTopic

const FIRST = 'index.html'

/** `operator:extrude#distance` names an operator and its parameter, all else a page of the documentation. */
export function topicOf(text: string | undefined): Topic {
  if (!text?.startsWith('operator:')) return text || FIRST
  const [operator = '', parameter = ''] = text.slice('operator:'.length).split('#')
  return { operator, parameter }
}

/** What of an element is needed here. */
interface Placed {
  closest: (selector: string) => object | null
}

/** The topic of what is around an element. */
export function topicAt(meant: Placed | null): Topic {
  return topicOf((meant?.closest('[data-help]') as HTMLElement | null | undefined)?.dataset.help)
}
