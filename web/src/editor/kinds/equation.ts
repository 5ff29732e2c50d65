/** Equations on the sheet: the MathML that the server makes, the same that the live page has. */
import { t } from "@lingui/core/macro"
import type { Node } from "prosemirror-model"
import type { EditorView, NodeView } from "prosemirror-view"
import { ask, client, type Problem } from "../../api/client"
import type { EditorKind } from "./kind"

export type Rendered =
  | { kind: "shown"; mathml: string }
  | { kind: "refused"; sentence: string; place: number }
  | { kind: "away"; sentence: string }

const known = new Map<string, Promise<Rendered>>()

/** An equation as MathML, or why there is none. What the server has said once is kept. */
export function render(latex: string, display: boolean): Promise<Rendered> {
  const key = `${display}${latex}`
  const before = known.get(key)
  if (before) return before
  const asked = fromServer(latex, display)
  known.set(key, asked)
  asked.then((rendered) => rendered.kind === "away" && known.delete(key))
  return asked
}

async function fromServer(latex: string, display: boolean): Promise<Rendered> {
  try {
    const { mathml } = await ask(client.POST("/api/equation", { body: { latex, display } }))
    return { kind: "shown", mathml }
  } catch (error) {
    const problem = error as Problem
    if (problem.status === 422)
      return { kind: "refused", sentence: problem.message, place: problem.body.place ?? 0 }
    return { kind: "away", sentence: problem.message }
  }
}

/** Where it cannot be read, an equation stands as code, as on the live page. */
export class EquationView implements NodeView {
  dom: HTMLElement

  constructor(
    private node: Node,
    private view: EditorView,
  ) {
    const block = node.type.isBlock
    this.dom = view.dom.ownerDocument.createElement(block ? "div" : "span")
    this.dom.className = block ? "equation" : "formula"
    this.dom.setAttribute("contenteditable", "false")
    this.draw()
  }

  private draw() {
    const { latex } = this.node.attrs
    if (!this.dom.firstChild) this.asCode(latex)
    render(latex, this.node.type.isBlock).then((rendered) => {
      if (this.node.attrs.latex !== latex) return
      if (rendered.kind === "shown") this.dom.innerHTML = rendered.mathml
      else this.asCode(latex)
    })
  }

  private asCode(latex: string) {
    const code = this.view.dom.ownerDocument.createElement("code")
    code.textContent = latex
    this.dom.replaceChildren(code)
  }

  update(node: Node): boolean {
    if (node.type !== this.node.type) return false
    const changed = node.attrs.latex !== this.node.attrs.latex
    this.node = node
    if (changed) this.draw()
    return true
  }

  ignoreMutation(): boolean {
    return true
  }
}

const latexOf = (dom: HTMLElement) => {
  const latex = dom.getAttribute("data-latex") ?? ""
  return latex ? { latex } : false
}

export const equation: EditorKind = {
  node: {
    toDOM: (node) => ["div", { class: "equation", "data-latex": node.attrs.latex }],
    parseDOM: [{ tag: "div.equation", getAttrs: latexOf }],
  },
  view: (node, view) => new EquationView(node, view),
  offers: [{ attrs: { latex: "x" }, name: t`Equation`, says: t`on a line of its own, in LaTeX` }],
}

export const formula: EditorKind = {
  node: {
    toDOM: (node) => ["span", { class: "formula", "data-latex": node.attrs.latex }],
    parseDOM: [{ tag: "span.formula", getAttrs: latexOf }],
  },
  view: (node, view) => new EquationView(node, view),
  offers: [{ attrs: { latex: "x" }, name: t`Formula`, says: t`an equation within the line, in LaTeX` }],
}
