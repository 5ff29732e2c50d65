import react from "@vitejs/plugin-react"
import { defineConfig, type Plugin } from "vite"
import { words } from "./words.ts"

const BASE = "/static/app/"
const NONCE = "__NONCE__"

/** Have the browser fetch at once what `main.tsx` asks for as soon as it runs: the interface, and its words in English. */
const ahead: Plugin = {
  name: "ahead",
  transformIndexHtml: {
    order: "post",
    handler(_, { bundle = {} }) {
      const chunks = Object.values(bundle).filter((each) => each.type === "chunk")
      const wanted = new Set<string>()
      const take = (file: string) => {
        if (wanted.has(file)) return
        wanted.add(file)
        for (const each of chunks.find(({ fileName }) => fileName === file)?.imports ?? []) take(each)
      }
      for (const { fileName, facadeModuleId } of chunks)
        if (/\/src\/(Root\.tsx|words\/en\.po)$/.test(facadeModuleId ?? "")) take(fileName)
      return [...wanted].map((file) => ({
        tag: "link",
        attrs: { rel: "modulepreload", crossorigin: true, href: BASE + file, nonce: NONCE },
        injectTo: "head" as const,
      }))
    },
  },
}

// The server puts its own address for static files in place of /app-assets/, and a nonce in place of __NONCE__.
export default defineConfig({
  base: BASE,
  plugins: [react(), words(), ahead],
  html: { cspNonce: NONCE },
  build: { target: "es2022", assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
})
