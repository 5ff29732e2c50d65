// @vitest-environment node
/** The interface's own words: all of them stand in the catalogue, and are spelt as a dictionary of British English has them. */
import { execFileSync } from "node:child_process"
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs"
import { tmpdir } from "node:os"
import { join } from "node:path"
import { i18n } from "@lingui/core"
import dictionary from "dictionary-en-gb"
import nspell from "nspell"
import ts from "typescript"
import { afterEach, expect, test } from "vitest"
import { messages } from "../../src/words/en.po"

/** Names of formats and the like, and words of the trade that the dictionary lacks. */
const OURS = new Set(
  [
    "px html css url csv docx odt xlsx ods pdf zip rtf latex mathml json svg kb mb ctrl cmd md txt https mailto readme cy",
    "alt unpublish unpublished approvers preformatted varrow callout monospace unmerge center arial sans",
    "flac mov matroska ogg srt wav webvtt avif png bcp wcag vct http etag flesch flesch's kincaid kincaid's decrypted",
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
  /^(title|label|name|text|help|placeholder|says|does|also|means|sentence|aria-label|aria-roledescription|aria-valuetext|inShelf|otherwise)$/

/** What is no word for anybody: what style sheets and drawings are made of. */
const NO_WORDS = /!important$|^\dpx solid|^M2 1v|sans-serif$/

/** Every text that somebody may see or hear and that is not marked: what stands between tags, what is named so, and every sentence. */
function unmarkedIn(path: string): string[] {
  const kind = path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS
  const source = ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.Latest, true, kind)
  const found: string[] = []
  const named = ({ parent }: ts.Node): boolean =>
    (ts.isJsxAttribute(parent) || ts.isPropertyAssignment(parent)) &&
    SHOWN.test(parent.name.getText().replaceAll('"', ""))
  const shown = (node: ts.Node): boolean => {
    const { parent } = node
    if (ts.isConditionalExpression(parent)) return parent.condition !== node && shown(parent)
    if (ts.isJsxExpression(parent)) return ts.isJsxElement(parent.parent) || named(parent)
    return named(node)
  }
  const visit = (node: ts.Node, inTrans: boolean) => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node) || ts.isTaggedTemplateExpression(node)) return
    if (ts.isCallExpression(node) && node.expression.getText() === "plural") return
    if (ts.isJsxElement(node) && node.openingElement.tagName.getText() === "Trans") inTrans = true
    if (ts.isJsxExpression(node)) inTrans = false
    if (ts.isJsxText(node)) {
      if (!inTrans && /\p{L}/u.test(node.text)) found.push(node.text)
    } else if (ts.isTemplateExpression(node)) {
      const words = [node.head, ...node.templateSpans.map(({ literal }) => literal)].map(({ text }) => text)
      const text = words.join(" … ")
      const wordy = /^[A-Z“][\p{L}’]* |\p{L}{2,} \p{L}/u.test(words.join("\u0001"))
      if (wordy && !NO_WORDS.test(text)) found.push(text)
    } else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
      const sentence = /^[A-Z“].* .*/.test(node.text)
      if ((sentence || (shown(node) && /^[A-Z]/.test(node.text))) && !NO_WORDS.test(node.text))
        found.push(node.text)
    }
    ts.forEachChild(node, (child) => visit(child, inTrans))
  }
  visit(source, false)
  return found.map((text) => `${path}: ${text.replace(/\s+/g, " ").trim()}`)
}

test("every text that is shown or heard is marked, so that the catalogue has it", () => {
  expect(filesIn("src").flatMap(unmarkedIn)).toEqual([])
})

test("the catalogue is what the marks make: npm run words", () => {
  const folder = mkdtempSync(join(tmpdir(), "words-"))
  try {
    copyFileSync("src/words/en.po", join(folder, "en.po"))
    execFileSync("npm", ["run", "words"], { env: { ...process.env, STILLPAGE_WORDS: folder }, stdio: "pipe" })
    const dated = /^"POT-Creation-Date.*\n/m
    const made = readFileSync(join(folder, "en.po"), "utf8").replace(dated, "")
    expect(made).toBe(readFileSync("src/words/en.po", "utf8").replace(dated, ""))
  } finally {
    rmSync(folder, { recursive: true })
  }
})

/** What of a compiled message is words: a text, or a list of texts, places, and choices by number. */
function textsOf(part: unknown): string[] {
  if (typeof part === "string") return [part]
  if (!Array.isArray(part)) return []
  return part.flatMap((each) => {
    if (!Array.isArray(each)) return textsOf(each)
    const choices = each[2]
    return choices && typeof choices === "object" ? Object.values(choices).flatMap(textsOf) : []
  })
}

/** The words of a text that are spelt out: no addresses, no code, nothing that stands for something else. */
const wordsOf = (text: string) =>
  text
    .replace(/<\/?\d+\/?>/g, "")
    .replace(/\S*[/\\@#_{}()[\]<>=.:+][^\s]*\w\S*/g, " ")
    .match(/(?<![\p{L}\d'’-])\p{L}[\p{L}'’]*(?![\p{L}\d-])/gu) ?? []

/** How many words the texts have, and those that no dictionary knows, each with the place where it stands. */
function misspelt(texts: [place: string, text: string][]): [seen: number, wrong: Record<string, string>] {
  const spelling = nspell(dictionary as never)
  const wrong: Record<string, string> = {}
  let seen = 0
  for (const [place, text] of texts)
    for (const word of wordsOf(text)) {
      seen += 1
      const plain = word.replaceAll("’", "'").replace(/'s?$/, "")
      if (/\p{Ll}\p{Lu}/u.test(plain)) continue
      const known = spelling.correct(plain) || spelling.correct(plain.toLowerCase())
      if (!known && !OURS.has(plain) && !OURS.has(plain.toLowerCase()))
        wrong[word] = `${place}: ${text.trim().slice(0, 80)}`
    }
  return [seen, wrong]
}

test("every word of the interface is spelt as the dictionary has it", () => {
  const texts = Object.entries(messages).flatMap(([id, message]) =>
    textsOf(message).map((text) => [id, text]),
  )
  const [seen, wrong] = misspelt(texts as [string, string][])
  expect(seen).toBeGreaterThan(4500)
  expect(wrong).toEqual({})
})

test("so is every word that the server says", () => {
  const options = { cwd: "..", encoding: "utf8" } as const
  const said = execFileSync(".venv/bin/python", ["-m", "tests.outside.sentences"], options)
  const [seen, wrong] = misspelt(
    said
      .trimEnd()
      .split("\n")
      .map((line) => JSON.parse(line)),
  )
  expect(seen).toBeGreaterThan(9000)
  expect(wrong).toEqual({})
})

afterEach(() => i18n.activate("en", "en-GB"))

test("another language is spoken where there is a catalogue of it, in lists that are made once, too", async () => {
  const { vi } = await import("vitest")
  vi.resetModules()
  const backwards = (part: unknown): unknown =>
    typeof part === "string"
      ? `«${part}»`
      : Array.isArray(part)
        ? part.map((each) => (typeof each === "string" ? `«${each}»` : each))
        : part
  const fresh = await import("@lingui/core")
  fresh.i18n.loadAndActivate({
    locale: "xx",
    messages: Object.fromEntries(
      Object.entries(messages).map(([id, message]) => [id, backwards(message)]),
    ) as never,
  })
  const { TEXT_ACTS } = await import("../../src/editor/acts")
  const { DESK_ACTS } = await import("../../src/screens/writing/desk")
  const english = [...TEXT_ACTS, ...DESK_ACTS].map(({ name }) => name).filter((name) => !name.includes("«"))
  expect(english).toEqual([])
})
