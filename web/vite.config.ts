import react from "@vitejs/plugin-react"
import { defineConfig } from "vite"

// The server puts its own address for static files in place of /app-assets/, and a nonce in place of __NONCE__.
export default defineConfig({
  base: "/static/app/",
  plugins: [react()],
  html: { cspNonce: "__NONCE__" },
  build: { target: "es2022", assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
})
