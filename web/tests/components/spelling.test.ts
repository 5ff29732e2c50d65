// @vitest-environment node
/** The interface's own words, out of every file, against a dictionary of British English. */
import { readdirSync, readFileSync } from "node:fs"
import { join } from "node:path"
import dictionary from "dictionary-en-gb"
import nspell from "nspell"
import ts from "typescript"
import { expect, test } from "vitest"

/** Names of formats and the like, and words of the trade that the dictionary lacks. */
const OURS = new Set(
  [
    "px html css url docx odt xlsx ods pdf zip rtf latex mathml json svg kb mb ctrl cmd md txt https mailto readme cy",
    "alt unpublish unpublished approvers preformatted varrow callout monospace unmerge arial sans",
  ].flatMap((words) => words.split(" ")),
)

function filesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) return filesIn(path)
    return /\.tsx?$/.test(entry.name) && !entry.name.includes(".generated.") ? [path] : []
  })
}

/** Attributes and facts whose words are shown or heard. */
const SHOWN =
  /^(title|label|name|text|help|placeholder|says|does|also|means|aria-label|aria-roledescription|inShelf|otherwise)$/

/** Every text that somebody may see or hear: what stands between tags, what is named so, and every sentence. */
function textsOf(path: string): string[] {
  const source = ts.createSourceFile(
    path,
    readFileSync(path, "utf8"),
    ts.ScriptTarget.Latest,
    true,
    path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  )
  const found: string[] = []
  const named = (node: ts.Node): boolean =>
    (ts.isJsxAttribute(node.parent) || ts.isPropertyAssignment(node.parent)) &&
    SHOWN.test(node.parent.name.getText().replaceAll('"', ""))
  const visit = (node: ts.Node) => {
    if (ts.isImportDeclaration(node)) return
    if (ts.isJsxText(node)) found.push(node.text)
    else if (ts.isTemplateExpression(node))
      found.push(
        [node.head, ...node.templateSpans.map(({ literal }) => literal)].map(({ text }) => text).join(" … "),
      )
    else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node))
      if (named(node) || /^[A-Z“].* .*/.test(node.text)) found.push(node.text)
    ts.forEachChild(node, visit)
  }
  visit(source)
  return found
}

/** The words of a text that are spelt out: no addresses, no code, nothing that stands for something else. */
const wordsOf = (text: string) =>
  text
    .replace(/\S*[/\\@#_{}()[\]<>=.:+][^\s]*\w\S*/g, " ")
    .match(/(?<![\p{L}\d'’-])\p{L}[\p{L}'’]*(?![\p{L}\d-])/gu) ?? []

test("every word of the interface is spelt as the dictionary has it", () => {
  const spelling = nspell(dictionary as never)
  const wrong = new Map<string, string>()
  let seen = 0
  for (const path of filesIn("src"))
    for (const text of textsOf(path))
      for (const word of wordsOf(text)) {
        seen += 1
        const plain = word.replaceAll("’", "'").replace(/'s?$/, "")
        if (/\p{Ll}\p{Lu}/u.test(plain)) continue
        const known = spelling.correct(plain) || spelling.correct(plain.toLowerCase())
        if (!known && !OURS.has(plain) && !OURS.has(plain.toLowerCase()))
          wrong.set(word, `${path}: ${text.trim().slice(0, 80)}`)
      }
  expect(seen).toBeGreaterThan(3000)
  expect(Object.fromEntries(wrong)).toEqual({})
})
