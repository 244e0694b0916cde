/** Elements of a page, made in one call. */
export function element<Tag extends keyof HTMLElementTagNameMap>(
  tag: Tag,
  properties: Partial<HTMLElementTagNameMap[Tag]> = {},
  children: Node[] = [],
): HTMLElementTagNameMap[Tag] {
  const made = Object.assign(document.createElement(tag), properties)
  made.append(...children)
  return made
}
