/**
 * The main job in Firefox, with real keys, by WebDriver BiDi: run by `tests/browser/test_firefox.py` as
 * `node tests/firefox_walk.mjs ORIGIN SESSION PAGE ADDRESS PICTURE`. Prints what was found, as JSON.
 */
import { readFileSync } from "node:fs"
import { basename } from "node:path"
import puppeteer from "puppeteer-core"

const [origin, session, pageId, address, picture] = process.argv.slice(2)
const browser = await puppeteer.launch({
  browser: "firefox",
  executablePath: "/usr/bin/firefox-esr",
  headless: true,
})
const found = { errors: [] }
try {
  const page = await browser.newPage()
  await page.setViewport({ width: 1280, height: 800 })
  page.on("pageerror", (error) => found.errors.push(String(error)))
  await browser.setCookie({ ...JSON.parse(session), domain: new URL(origin).hostname, path: "/" })
  await page.goto(`${origin}/pages/${pageId}`)
  const frame = await (await page.waitForSelector("iframe")).contentFrame()
  await frame.waitForSelector(".regions[contenteditable=true]:focus")
  const { keyboard } = page
  const chord = async (key, ...held) => {
    for (const each of held) await keyboard.down(each)
    await keyboard.press(key)
    for (const each of held) await keyboard.up(each)
  }
  const named = async (words, back = true) => {
    await chord("Enter", "Control")
    await page.waitForSelector("#shelf-field:focus")
    await keyboard.type(words)
    await page.waitForFunction(() => document.querySelector("#offer-0")?.textContent?.includes("do this"))
    await keyboard.press("Enter")
    if (back) await frame.waitForSelector(".regions:focus")
  }

  // Writing: running text, a heading, a list, strong words.
  await keyboard.type("The path is level.")
  await keyboard.press("Enter")
  await named("level 2")
  await keyboard.type("Before you set out")
  await keyboard.press("Enter")
  await keyboard.type("- boots")
  await keyboard.press("Enter")
  await keyboard.type("water ")
  await chord("b", "Control")
  await keyboard.type("and a map")
  await chord("b", "Control")
  await keyboard.press("Enter")
  await keyboard.press("Enter")

  // A link, by the title of a page.
  await keyboard.type("See ")
  await chord("k", "Control")
  await page.waitForSelector("#shelf-field:focus")
  await keyboard.type("visit")
  await page.waitForFunction(() => document.querySelector("#offer-0")?.textContent?.startsWith("Visit"))
  await keyboard.press("Enter")
  await frame.waitForSelector(".regions:focus")
  await keyboard.type(".")

  // Undo and redo.
  await new Promise((resolve) => setTimeout(resolve, 800))
  await keyboard.type(" Undone.")
  await chord("z", "Control")
  found.undone = await frame.$eval(".text", (text) => !text.textContent.includes("Undone."))
  await chord("y", "Control")
  found.redone = await frame.$eval(".text", (text) => text.textContent.includes("Undone."))
  await chord("z", "Control")

  // A paste from elsewhere, in a paragraph of its own: what is copied is put on the clipboard as a word processor would.
  await frame.evaluate(() =>
    document.addEventListener(
      "copy",
      (event) => {
        event.preventDefault()
        event.stopImmediatePropagation()
        event.clipboardData.setData(
          "text/html",
          '<p class="MsoNormal"><b style="color:red">Pasted</b> words</p>',
        )
        event.clipboardData.setData("text/plain", "Pasted words")
      },
      { once: true, capture: true },
    ),
  )
  await chord("ArrowLeft", "Shift")
  await chord("c", "Control")
  await keyboard.press("ArrowRight")
  await keyboard.press("Enter")
  await chord("v", "Control")
  await frame.waitForFunction(() =>
    [...document.querySelectorAll(".text p")].some((p) => p.textContent === "Pasted words"),
  )

  // A picture dropped from the disk onto the sheet, and its alt text.
  const bytes = [...readFileSync(picture)]
  await frame.evaluate(
    (bytes, name) => {
      const data = new DataTransfer()
      data.items.add(new File([new Uint8Array(bytes)], name, { type: "image/jpeg" }))
      const text = document.querySelector(".regions")
      const { left, bottom } = text.getBoundingClientRect()
      const at = {
        clientX: left + 20,
        clientY: bottom - 5,
        bubbles: true,
        cancelable: true,
        dataTransfer: data,
      }
      text.dispatchEvent(new DragEvent("drop", at))
    },
    bytes,
    basename(picture),
  )
  const image = await frame.waitForSelector(".text figure img")
  await image.click()
  await keyboard.press("Tab")
  await page.waitForFunction(() => document.activeElement?.matches("textarea"))
  await keyboard.type("A lock from above")
  await keyboard.press("Escape")
  await frame.waitForSelector(".regions:focus")

  // Saved by itself, then published by its name.
  await page.waitForSelector('[data-save="saved"]')
  await named("publish", false)
  await page.waitForFunction(() => document.activeElement?.textContent === "Publish now")
  await keyboard.press("Enter")
  await page.waitForFunction(() =>
    document.querySelector("[data-save]")?.textContent?.includes("readers see just this"),
  )
  found.focused = await page.evaluate(() => document.activeElement?.tagName)

  const reader = await browser.newPage()
  await reader.goto(address)
  found.live = await reader.$eval("main", (main) =>
    [...main.querySelectorAll("h1, .text > *")].map((each) => `${each.tagName} ${each.textContent.trim()}`),
  )
  found.alt = await reader.$eval("main figure img", (each) => each.alt)
  found.strong = await reader.$$eval("main strong", (all) => all.map((each) => each.textContent))
} finally {
  await browser.close()
}
console.log(JSON.stringify(found))
