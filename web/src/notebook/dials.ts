/** The dials of a graph or a package as controls: each change is told at once. */
import { element } from './elements'
import type { DialTold } from './model'

type Value = DialTold['value']

export function dialsOf(dials: DialTold[], tell: (name: string, value: Value) => void): HTMLElement {
  const box = element('div', { className: 'dials' })
  for (const dial of dials) {
    const id = `dial-${dial.name}`
    const label = element('label', { textContent: dial.name.replaceAll('_', ' '), htmlFor: id, title: dial.help })
    box.append(
      label,
      control(dial, id, (value) => tell(dial.name, value)),
    )
    box.append(element('span', { className: 'faint', textContent: dial.unit }))
  }
  return box
}

function control(dial: DialTold, id: string, tell: (value: Value) => void): HTMLElement {
  if (dial.type === 'flag') {
    const box = element('input', { id, type: 'checkbox', checked: dial.value === true })
    box.onchange = () => tell(box.checked)
    return box
  }
  if (dial.type === 'choice') {
    const options = (dial.options ?? []).map((text) =>
      element('option', { value: text, textContent: text, selected: text === dial.value }),
    )
    const list = element('select', { id }, options)
    list.onchange = () => tell(list.value)
    return list
  }
  if (dial.type === 'text') {
    const line = element('input', { id, type: 'text', value: String(dial.value) })
    line.onchange = () => tell(line.value)
    return line
  }
  if (dial.type === 'vector') return vector(dial, id, tell)
  return amount(dial, id, tell)
}

/** A number with a slider where its range is known. */
function amount(dial: DialTold, id: string, tell: (value: Value) => void): HTMLElement {
  const value = Number(dial.value)
  const field = numberField(dial, value)
  field.id = id
  if (dial.low === undefined || dial.high === undefined) {
    field.onchange = () => Number.isFinite(field.valueAsNumber) && tell(field.valueAsNumber)
    return field
  }
  const step = String(
    dial.step ?? (dial.type === 'integer' ? 1 : 10 ** Math.floor(Math.log10((dial.high - dial.low) / 100))),
  )
  const slider = element('input', {
    type: 'range',
    min: String(dial.low),
    max: String(dial.high),
    step,
    value: String(value),
    ariaLabel: dial.name,
  })
  slider.oninput = () => {
    field.value = slider.value
    tell(slider.valueAsNumber)
  }
  field.onchange = () => {
    if (!Number.isFinite(field.valueAsNumber)) return
    slider.value = field.value
    tell(field.valueAsNumber)
  }
  const both = element('div', { className: 'several' }, [slider, field])
  slider.style.flex = '1'
  return both
}

function vector(dial: DialTold, id: string, tell: (value: Value) => void): HTMLElement {
  const values = Array.isArray(dial.value) ? [...dial.value] : []
  const fields = values.map((value, k) => {
    const field = numberField(dial, value)
    field.ariaLabel = `${dial.name} ${'xyzw'[k] ?? k}`
    field.onchange = () => {
      if (!Number.isFinite(field.valueAsNumber)) return
      values[k] = field.valueAsNumber
      tell([...values])
    }
    return field
  })
  if (fields[0]) fields[0].id = id
  return element('div', { className: 'several' }, fields)
}

function numberField(dial: DialTold, value: number): HTMLInputElement {
  return element('input', { type: 'number', step: dial.type === 'integer' ? '1' : 'any', value: String(value) })
}
