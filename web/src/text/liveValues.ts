/** Values in the text: at the end of each line what it gave, on hovering the value of the part that is pointed at. */
import { StateEffect, StateField, type Extension, type Text } from '@codemirror/state'
import { Decoration, EditorView, hoverTooltip, WidgetType, type DecorationSet, type Tooltip } from '@codemirror/view'
import { partAt, stepWords, type Shown, type Stepper } from '../model/live'

/** Show these values; null: none. They are of the text as it stood, and go along with their lines while it is typed into. */
export const setLive = StateEffect.define<Shown | null>()

class LineValue extends WidgetType {
  constructor(
    private readonly text: string,
    private readonly steppers: readonly Stepper[],
    private readonly step: (key: string, at: number) => void,
  ) {
    super()
  }

  override eq(other: LineValue): boolean {
    return this.text === other.text && JSON.stringify(this.steppers) === JSON.stringify(other.steppers)
  }

  toDOM(): HTMLElement {
    const dom = Object.assign(document.createElement('span'), { className: 'cm-live' })
    for (const one of this.steppers) dom.append(this.stepper(one))
    if (this.text)
      dom.append(Object.assign(document.createElement('span'), { className: 'live-value', textContent: this.text }))
    return dom
  }

  private stepper(one: Stepper): HTMLElement {
    const dom = Object.assign(document.createElement('span'), { className: 'cm-live-rounds' })
    const words = stepWords(one)
    const button = (sign: string, label: string, to: number) => {
      const made = Object.assign(document.createElement('button'), {
        type: 'button',
        textContent: sign,
        title: label,
        disabled: to < 0 || to >= one.kept,
      })
      made.setAttribute('aria-label', `${label}, ${words}`)
      made.addEventListener('mousedown', (event) => event.preventDefault())
      made.addEventListener('click', () => this.step(one.key, to))
      return made
    }
    if (one.total > 1) dom.append(button('‹', 'The round before', one.at - 1))
    dom.append(Object.assign(document.createElement('span'), { textContent: words }))
    if (one.total > 1) dom.append(button('›', 'The next round', one.at + 1))
    return dom
  }

  override ignoreEvent(): boolean {
    return true
  }
}

const COLORS = EditorView.theme({
  '.cm-live': { marginLeft: '18px', fontFamily: 'var(--mono)', fontSize: '12.5px', userSelect: 'none' },
  '.cm-live-rounds': { marginRight: '8px', color: 'var(--faint-ink)' },
  '.cm-live-rounds button': {
    minWidth: '20px',
    margin: '0 2px',
    padding: '0 4px',
    border: '1px solid var(--line)',
    borderRadius: '4px',
    color: 'var(--ink)',
    backgroundColor: 'var(--raised)',
    font: 'inherit',
    cursor: 'pointer',
  },
  '.cm-live-rounds button:disabled': { opacity: '0.4', cursor: 'default' },
  '.cm-live-part': { backgroundColor: 'var(--live-wash)', borderRadius: '3px' },
  '.cm-live-tip': {
    padding: '3px 8px',
    fontFamily: 'var(--mono)',
    fontSize: '13px',
    maxWidth: '420px',
    overflowWrap: 'anywhere',
  },
  '.cm-live-tip i': { marginLeft: '8px', color: 'var(--faint-ink)', fontStyle: 'normal', fontSize: '12px' },
})

/** Make the extension; `step` hears that another round of a loop is wanted. */
export function liveValues(step: (key: string, at: number) => void): Extension {
  const field = StateField.define<{ shown: Shown | null; marks: DecorationSet }>({
    create: () => ({ shown: null, marks: Decoration.none }),
    update(held, change) {
      let next = change.docChanged ? { shown: held.shown, marks: held.marks.map(change.changes) } : held
      for (const effect of change.effects)
        if (effect.is(setLive)) next = { shown: effect.value, marks: marksOf(change.state.doc, effect.value, step) }
      return next
    },
    provide: (own) => EditorView.decorations.from(own, (held) => held.marks),
  })
  return [field, COLORS, hoverTooltip((view, at) => tipAt(view, at, view.state.field(field).shown), { hoverTime: 120 })]
}

function marksOf(doc: Text, shown: Shown | null, step: (key: string, at: number) => void): DecorationSet {
  if (!shown) return Decoration.none
  const lines = new Set([...shown.lines.keys(), ...shown.steppers.map((one) => one.line)])
  return Decoration.set(
    [...lines]
      .filter((line) => line >= 1 && line <= doc.lines)
      .sort((a, b) => a - b)
      .map((line) =>
        Decoration.widget({
          widget: new LineValue(
            shown.lines.get(line) ?? '',
            shown.steppers.filter((one) => one.line === line),
            step,
          ),
          side: 1,
        }).range(doc.line(line).to),
      ),
  )
}

function tipAt(view: EditorView, at: number, shown: Shown | null): Tooltip | null {
  const line = view.state.doc.lineAt(at)
  const part = shown ? partAt(shown.parts, line.number, at - line.from + 1) : null
  if (!part) return null
  const from = line.from + part.column - 1
  return {
    pos: Math.min(from, line.to),
    end: Math.min(from + part.length, line.to),
    above: true,
    create: () => {
      const dom = Object.assign(document.createElement('div'), { className: 'cm-live-tip' })
      dom.append(part.text, Object.assign(document.createElement('i'), { textContent: part.type }))
      return { dom }
    },
  }
}
