import { defineConfig } from "@lingui/conf"
import { formatter } from "@lingui/format-po"

// `npm run words` gathers the words of the interface, which are marked where they stand, into src/words/.
export default defineConfig({
  sourceLocale: "en",
  locales: ["en"],
  catalogs: [{ path: `${process.env.STILLPAGE_WORDS ?? "src/words"}/{locale}`, include: ["src"] }],
  format: formatter({ lineNumbers: false, printPlaceholdersInComments: false }),
  orderBy: "origin",
})
