/** A code editor: our colouring, completion, hints and errors. Knows nothing of graphs. */
import {
  autocompletion,
  closeBrackets,
  closeBracketsKeymap,
  completionKeymap,
  type CompletionContext,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands'
import { pythonLanguage } from '@codemirror/lang-python'
import { bracketMatching, HighlightStyle, indentOnInput, indentUnit, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState, type Extension } from '@codemirror/state'
import { drawSelection, EditorView, highlightActiveLine, hoverTooltip, keymap, lineNumbers } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import type { ErrorState, OperatorList, TextState } from '../api/client'
import { plainOf } from './plainError'
import { hintAt, offersAt, rangeOf, spotAt } from './completion'

export interface Knowledge {
  state: TextState | null
  functions: OperatorList['functions']
}

const COLORS = HighlightStyle.define([
  {
    tag: [tags.keyword, tags.controlKeyword, tags.operatorKeyword, tags.definitionKeyword],
    color: 'var(--code-word)',
    fontWeight: '600',
  },
  { tag: [tags.number, tags.bool], color: 'var(--code-number)' },
  { tag: tags.string, color: 'var(--code-text)' },
  { tag: tags.comment, color: 'var(--faint-ink)', fontStyle: 'italic' },
  { tag: [tags.function(tags.variableName), tags.function(tags.propertyName)], color: 'var(--code-call)' },
  { tag: tags.propertyName, color: 'var(--code-member)' },
])

const THEME = EditorView.theme({
  '&': { height: '100%', fontSize: '13.5px', color: 'var(--ink)', backgroundColor: 'var(--raised)' },
  '.cm-scroller': { fontFamily: 'var(--mono)', lineHeight: '1.5' },
  '.cm-content': { caretColor: 'var(--accent)' },
  '.cm-gutters': {
    backgroundColor: 'var(--sheet)',
    color: 'var(--faint-ink)',
    border: '0',
    borderRight: '1px solid var(--line)',
  },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'color-mix(in srgb, var(--accent) 7%, transparent)' },
  '.cm-cursor': { borderLeftColor: 'var(--accent)', borderLeftWidth: '2px' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'color-mix(in srgb, var(--accent) 25%, transparent) !important',
  },
  '&.cm-focused': { outline: '2px solid var(--accent)', outlineOffset: '-2px' },
  '.cm-tooltip': {
    border: '1px solid var(--strong-line)',
    borderRadius: '5px',
    backgroundColor: 'var(--raised)',
    color: 'var(--ink)',
    boxShadow: 'var(--shade)',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': {
    fontFamily: 'var(--mono)',
    fontSize: '13px',
    maxHeight: '14em',
    minWidth: '300px',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { display: 'flex', gap: '10px', padding: '2px 8px' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    backgroundColor: 'var(--accent-wash)',
    color: 'var(--ink)',
  },
  '.cm-completionDetail': { marginLeft: 'auto', color: 'var(--faint-ink)', fontStyle: 'normal' },
  '.cm-completionMatchedText': { color: 'var(--accent)', textDecoration: 'none', fontWeight: '700' },
  '.cm-completionInfo': { fontFamily: 'var(--sans)', fontSize: '13px', maxWidth: '300px' },
  '.hint': { padding: '4px 9px', maxWidth: '380px', fontSize: '13px' },
  '.hint b': { fontFamily: 'var(--mono)' },
  '.hint p': { margin: '1px 0 0', color: 'var(--faint-ink)' },
  '.cm-diagnostic': { fontFamily: 'var(--sans)', borderLeft: '4px solid var(--bad)', maxWidth: '420px' },
  '.cm-lintRange-error': {
    backgroundImage: 'none',
    textDecoration: 'underline wavy var(--bad)',
    textUnderlineOffset: '3px',
  },
})

/** Make an editor in `parent`. `knowledge` is asked whenever something is to be offered; `changed` hears of every edit. */
export function makeEditor(
  parent: HTMLElement,
  text: string,
  label: string,
  knowledge: () => Knowledge,
  changed: (text: string) => void,
  more: Extension = [],
): EditorView {
  return new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      extensions: [
        lineNumbers(),
        history(),
        drawSelection(),
        indentOnInput(),
        bracketMatching(),
        closeBrackets(),
        highlightActiveLine(),
        lintGutter(),
        EditorView.lineWrapping,
        indentUnit.of('    '),
        EditorState.tabSize.of(4),
        pythonLanguage,
        syntaxHighlighting(COLORS),
        THEME,
        autocompletion({
          override: [(context) => complete(context, knowledge())],
          icons: false,
          maxRenderedOptions: 60,
        }),
        hoverTooltip((view, at) => hint(view, at, knowledge())),
        keymap.of([...closeBracketsKeymap, ...completionKeymap, ...defaultKeymap, ...historyKeymap, indentWithTab]),
        more,
        EditorView.contentAttributes.of({ 'aria-label': label }),
        EditorView.updateListener.of((update) => update.docChanged && changed(update.state.doc.toString())),
      ],
    }),
  })
}

function complete(context: CompletionContext, { state, functions }: Knowledge) {
  const text = context.state.doc.toString()
  const spot = spotAt(text, context.pos)
  if (!context.explicit && !spot.word && spot.owner === null) return null
  const offers = offersAt(spot, state, functions, true)
  if (!offers.length) return null
  return {
    from: spot.from,
    filter: false,
    options: offers.slice(0, 80).map((offer) => ({
      label: offer.label,
      apply: offer.insert ?? offer.label,
      detail: offer.detail,
      info: offer.info || undefined,
    })),
  }
}

function hint(view: EditorView, at: number, { state, functions }: Knowledge) {
  const found = hintAt(view.state.doc.toString(), at, state, functions)
  if (!found) return null
  return {
    pos: found.from,
    end: found.to,
    create: () => {
      const dom = document.createElement('div')
      dom.className = 'hint'
      dom.append(Object.assign(document.createElement('b'), { textContent: found.title }))
      if (found.body) dom.append(Object.assign(document.createElement('p'), { textContent: found.body }))
      return { dom }
    },
  }
}

/** Underline an error where it stands, or take the line away. */
export function showError(view: EditorView, error: ErrorState | null): void {
  const text = view.state.doc.toString()
  const marks = error
    ? [
        {
          ...rangeOf(text, error.line ?? 1, error.column ?? 1, error.length ?? 1),
          severity: 'error' as const,
          message: plainOf(error),
        },
      ]
    : []
  view.dispatch(setDiagnostics(view.state, marks))
}
