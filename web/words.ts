/** How the marks of the interface's words (`t`, `plural`, `Trans`) become calls, for Vite in all its uses. */
import { transformAsync } from "@babel/core"
import { lingui } from "@lingui/vite-plugin"
import type { Plugin } from "vite"

/** The macros by Babel: Lingui's own transformer wants a newer Node.js than the machines have that this is built on. */
const marks: Plugin = {
  name: "marks",
  enforce: "pre",
  transform: {
    filter: { id: /\.tsx?$/, code: /@lingui\/(core|react)\/macro/ },
    async handler(code, filename) {
      const done = await transformAsync(code, {
        filename,
        configFile: false,
        babelrc: false,
        sourceMaps: true,
        parserOpts: { plugins: filename.endsWith("x") ? ["typescript", "jsx"] : ["typescript"] },
        plugins: ["@lingui/babel-plugin-lingui-macro"],
      })
      return done?.code ? { code: done.code, map: done.map } : undefined
    },
  },
}

export const words = () => [marks, ...[lingui({ failOnMissing: true, failOnCompileError: true })].flat()]
