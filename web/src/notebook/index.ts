/** Shapes in a notebook: pictures beside each other, coloured by a value, and the dials of what makes them. */
import { isHere, keepArray } from '../api/buffers'
import { dialsOf } from './dials'
import { element } from './elements'
import type { Model, Wish } from './model'
import { ShapePicture } from './picture'
import { rangeOf } from './ranges'
import { STYLE } from './style'

function render({ model, el }: { model: Model; el: HTMLElement }): () => void {
  const root = el.shadowRoot ?? el.attachShadow({ mode: 'open' })
  const list = element('select', { ariaLabel: 'Colour by' })
  const turn = element('button', { type: 'button', textContent: 'Turn' })
  const whole = element('button', { type: 'button', textContent: 'Show all' })
  const bar = element('div', { className: 'bar' }, [
    element('label', {}, [element('span', { textContent: 'Colour by' }), list]),
    turn,
    whole,
  ])
  const trouble = element('div', { className: 'trouble', hidden: true })
  trouble.setAttribute('role', 'alert')
  const row = element('div', { className: 'pictures' })
  const dials = element('div')
  root.replaceChildren(element('style', { textContent: STYLE }), dials, bar, trouble, row)
  let pictures: ShapePicture[] = []

  const keyOf = ({ kind, name, part }: Wish) => `${kind} ${name}${part ? ` ${part}` : ''}`

  /** What all shapes can be coloured by, each vector by its parts. */
  function wishes(): Wish[] {
    const found = new Map<string, Wish>()
    for (const { attributes } of model.get('shapes'))
      for (const { kind, name, parts } of attributes)
        for (const part of parts.length ? parts : ['']) found.set(keyOf({ kind, name, part }), { kind, name, part })
    return [...found.values()]
  }

  function offer(): void {
    const now = model.get('color')
    const entries = wishes()
    list.replaceChildren(
      element('option', { value: '', textContent: 'nothing', selected: !now }),
      ...entries.map((wish) =>
        element('option', {
          value: keyOf(wish),
          textContent: `${wish.name}${wish.part && wish.part !== 'length' ? `.${wish.part}` : ''}${wish.part === 'length' ? ' (length)' : ''} per ${wish.kind}`,
          selected: !!now && keyOf(now) === keyOf(wish),
        }),
      ),
    )
  }

  function draw(): void {
    for (const [digest, view] of Object.entries(model.get('arrays')))
      if (!isHere(digest))
        keepArray(digest, view.buffer.slice(view.byteOffset, view.byteOffset + view.byteLength) as ArrayBuffer)
    const shapes = model.get('shapes')
    if (pictures.length !== shapes.length) {
      for (const one of pictures) one.dispose()
      pictures = shapes.map(() => new ShapePicture(model.get('height')))
      row.replaceChildren(...pictures.map((one) => one.figure))
    }
    offer()
    const looks = model.get('looks')
    shapes.forEach((shape, k) => {
      pictures[k]!.show(shape, looks[k] ?? null, model.get('color'), rangeOf(looks, model.get('color'))).catch(
        (error: unknown) => say(String(error)),
      )
    })
    say(model.get('trouble'))
  }

  function say(text: string): void {
    trouble.textContent = text
    trouble.hidden = !text
  }

  list.onchange = () => {
    model.set('color', wishes().find((wish) => keyOf(wish) === list.value) ?? null)
    model.save_changes()
  }
  turn.onclick = () => {
    const on = turn.ariaPressed !== 'true'
    turn.ariaPressed = String(on)
    for (const one of pictures) one.turn(on)
  }
  turn.ariaPressed = 'false'
  whole.onclick = () => pictures.forEach((one) => one.frame())
  const told = model.get('dials')
  if (told.length)
    dials.append(
      dialsOf(told, (name, value) => {
        model.set('values', { ...model.get('values'), [name]: value })
        model.save_changes()
      }),
    )

  // One change in the kernel sets several of these: they are drawn together, once.
  let waiting = false
  const soon = () => {
    if (waiting) return
    waiting = true
    queueMicrotask(() => {
      waiting = false
      draw()
    })
  }
  const events = ['change:shapes', 'change:looks', 'change:arrays', 'change:trouble']
  for (const event of events) model.on(event, soon)
  draw()
  return () => {
    for (const event of events) model.off(event, soon)
    for (const one of pictures) one.dispose()
  }
}

export default { render }
