import { ChakraProvider } from "@chakra-ui/react"
import createCache from "@emotion/cache"
import { CacheProvider } from "@emotion/react"
import { i18n } from "@lingui/core"
import { I18nProvider } from "@lingui/react"
import { QueryClient, QueryClientProvider } from "@tanstack/react-query"
import { StrictMode, Suspense } from "react"
import { createRoot } from "react-dom/client"
import { createBrowserRouter } from "react-router"
import { RouterProvider } from "react-router/dom"
import { App, writing } from "./App"
import { pageAsked } from "./api/answers"
import { Boundary } from "./look/Boundary"
import { keepFocus } from "./look/focus"
import { system } from "./look/system"

const nonce = document.querySelector<HTMLElement>("meta[property=csp-nonce]")?.nonce
const cache = createCache({ key: "sp", nonce })
const queries = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, staleTime: 10_000 } },
})

/** Light or dark as the system says, at once when it changes. */
const dark = matchMedia("(prefers-color-scheme: dark)")
const follow = () => document.documentElement.classList.toggle("dark", dark.matches)
dark.addEventListener("change", follow)
follow()

// The page that an address names is asked for while the session still is; whoever is not signed in gets nothing.
const named = /^\/pages\/(\d+)$/.exec(location.pathname)?.[1]
if (named) {
  void writing().catch(() => undefined)
  void queries.prefetchQuery(pageAsked(Number(named)))
}

keepFocus()

const router = createBrowserRouter([
  {
    path: "*",
    element: (
      <Boundary place="/">
        <Suspense>
          <App />
        </Suspense>
      </Boundary>
    ),
  },
])

const root = document.getElementById("app")
if (root) {
  createRoot(root).render(
    <StrictMode>
      <CacheProvider value={cache}>
        <ChakraProvider value={system}>
          <QueryClientProvider client={queries}>
            <I18nProvider i18n={i18n}>
              <RouterProvider router={router} />
            </I18nProvider>
          </QueryClientProvider>
        </ChakraProvider>
      </CacheProvider>
    </StrictMode>,
  )
}
