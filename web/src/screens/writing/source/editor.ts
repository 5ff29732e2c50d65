/** A code editor for the page's HTML. */

import { defaultKeymap, history, historyKeymap } from "@codemirror/commands"
import { html } from "@codemirror/lang-html"
import { bracketMatching, HighlightStyle, syntaxHighlighting } from "@codemirror/language"
import { type Diagnostic, setDiagnostics } from "@codemirror/lint"
import { highlightSelectionMatches, search, searchKeymap } from "@codemirror/search"
import { EditorState, Prec } from "@codemirror/state"
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightSpecialChars,
  keymap,
  lineNumbers,
} from "@codemirror/view"
import { tags } from "@lezer/highlight"
import { t } from "@lingui/core/macro"
import type { SourceNote } from "../../../api/client"

const colour = (name: string) => `var(--chakra-colors-${name})`

const theme = EditorView.theme({
  "&": { height: "100%", backgroundColor: colour("paper"), color: colour("ink"), fontSize: "14px" },
  "&.cm-focused": { outline: "none" },
  ".cm-scroller": { fontFamily: "ui-monospace, 'DejaVu Sans Mono', monospace", lineHeight: "1.6" },
  ".cm-gutters": { backgroundColor: colour("ground"), color: colour("quiet"), border: "none" },
  ".cm-activeLine": { backgroundColor: "transparent", boxShadow: `inset 2px 0 ${colour("line")}` },
  ".cm-cursor": { borderLeftColor: colour("ink"), borderLeftWidth: "2px" },
  "&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground": {
    backgroundColor: colour("lit"),
  },
  "&.cm-focused .cm-matchingBracket": { backgroundColor: colour("lit"), color: "inherit" },
  ".cm-panels": { backgroundColor: colour("paper"), color: colour("ink") },
  ".cm-panels-top": { borderBottom: `1px solid ${colour("line")}` },
  ".cm-textfield, .cm-button": {
    backgroundColor: colour("ground"),
    backgroundImage: "none",
    color: colour("ink"),
    border: `1px solid ${colour("edge")}`,
    minHeight: "24px",
  },
  ".cm-searchMatch": { backgroundColor: "transparent", outline: `2px solid ${colour("waits")}` },
  ".cm-searchMatch-selected": { backgroundColor: colour("lit") },
  ".cm-tooltip": {
    backgroundColor: colour("paper"),
    color: colour("ink"),
    border: `1px solid ${colour("edge")}`,
  },
})

const faces = HighlightStyle.define([
  { tag: tags.tagName, color: colour("press-fg") },
  { tag: tags.angleBracket, color: colour("quiet") },
  { tag: tags.attributeName, color: colour("waits") },
  { tag: tags.attributeValue, color: colour("live") },
  { tag: tags.comment, color: colour("quiet"), fontStyle: "italic" },
  { tag: tags.invalid, color: colour("wrong") },
])

interface Options {
  parent: HTMLElement
  text: string
  caret: number
  onChange(): void
  onApply(): void
}

export function makeEditor({ parent, text, caret, onChange, onApply }: Options): EditorView {
  const nonce = document.querySelector<HTMLElement>("meta[property=csp-nonce]")?.nonce ?? ""
  const run = () => {
    onApply()
    return true
  }
  const state = EditorState.create({
    doc: text,
    selection: { anchor: Math.min(caret, text.length) },
    extensions: [
      EditorView.cspNonce.of(nonce),
      lineNumbers(),
      history(),
      drawSelection(),
      highlightSpecialChars(),
      highlightActiveLine(),
      bracketMatching(),
      // What is typed stands as typed: no tag closes itself, since most lines are whole already.
      html({ autoCloseTags: false }),
      syntaxHighlighting(faces),
      theme,
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ "aria-label": t`The source of the page` }),
      EditorView.updateListener.of((update) => update.docChanged && onChange()),
      // Tab leaves the field, as everywhere.
      Prec.high(keymap.of([{ key: "Mod-Enter", run }])),
      search({ top: true }),
      highlightSelectionMatches(),
      keymap.of([...searchKeymap, ...defaultKeymap, ...historyKeymap]),
    ],
  })
  const view = new EditorView({ state, parent })
  view.dispatch({ effects: EditorView.scrollIntoView(state.selection.main.head, { y: "center" }) })
  view.focus()
  return view
}

/** Mark what would not come through. Notes made for a text that has grown shorter since are held within it. */
export function mark(view: EditorView, notes: readonly SourceNote[]) {
  const { length } = view.state.doc
  const diagnostics = notes.map(
    ({ start, end, sort, sentence }): Diagnostic => ({
      from: Math.min(start, length),
      to: Math.min(end, length),
      severity: sort === "wrong" ? "error" : "warning",
      message: sentence,
    }),
  )
  view.dispatch(setDiagnostics(view.state, diagnostics))
}

/** Go to where something would not come through. */
export function goTo(view: EditorView, { start, end }: SourceNote) {
  const { length } = view.state.doc
  const selection = { anchor: Math.min(start, length), head: Math.min(end, length) }
  view.dispatch({ selection, effects: EditorView.scrollIntoView(selection.anchor, { y: "center" }) })
  view.focus()
}
