/** What component tests share: the interface's own look, a router, answers without a server. */
import { ChakraProvider } from "@chakra-ui/react"
import { i18n } from "@lingui/core"
import { I18nProvider } from "@lingui/react"
import { QueryClient, QueryClientProvider } from "@tanstack/react-query"
import { cleanup, render } from "@testing-library/react"
import type { ReactElement } from "react"
import { createMemoryRouter, RouterProvider } from "react-router"
import { afterEach, vi } from "vitest"
import { system } from "../../src/look/system"

afterEach(cleanup)

/** Show an element at “/”; other addresses show where one is. */
export function show(element: ReactElement) {
  const router = createMemoryRouter([
    { path: "/", element },
    { path: "*", element: <p>Elsewhere</p> },
  ])
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <I18nProvider i18n={i18n}>
          <RouterProvider router={router} />
        </I18nProvider>
      </QueryClientProvider>
    </ChakraProvider>,
  )
  return router
}

/** Answer what is asked of the server: by its address, with JSON, or with a status alone. */
export function answerWith(answer: (address: URL) => unknown) {
  const asked: string[] = []
  vi.mocked(fetch).mockImplementation(async (request) => {
    const address = new URL((request as Request).url)
    asked.push(address.pathname + address.search)
    const body = answer(address)
    return typeof body === "number" ? new Response("{}", { status: body }) : Response.json(body)
  })
  return asked
}
