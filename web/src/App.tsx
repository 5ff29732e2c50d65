import { t } from "@lingui/core/macro"
import { lazy, useDeferredValue, useEffect } from "react"
import { Navigate, Route, Routes, useLocation } from "react-router"
import { Boundary } from "./look/Boundary"
import { Heard } from "./look/heard"
import { Sentence } from "./look/Sentence"
import { useSession } from "./look/useSession"
import { SignIn } from "./screens/SignIn"

// A screen is loaded when it is opened; the writing view, which is most of all, as soon as nothing else is to do.
export const writing = () => import("./screens/writing/Writing")
const Writing = lazy(() => writing().then(({ Writing }) => ({ default: Writing })))
const Contents = lazy(() =>
  import("./screens/contents/Contents").then(({ Contents }) => ({ default: Contents })),
)
const Library = lazy(() => import("./screens/library/Library").then(({ Library }) => ({ default: Library })))
const Captions = lazy(() =>
  import("./screens/captions/Captions").then(({ Captions }) => ({ default: Captions })),
)
const SiteChecks = lazy(() =>
  import("./screens/checks/SiteChecks").then(({ SiteChecks }) => ({ default: SiteChecks })),
)
const Results = lazy(() => import("./screens/checks/Results").then(({ Results }) => ({ default: Results })))
const OutsideLinks = lazy(() =>
  import("./screens/checks/OutsideLinks").then(({ OutsideLinks }) => ({ default: OutsideLinks })),
)
const Checks = lazy(() => import("./screens/help/Checks").then(({ Checks }) => ({ default: Checks })))
const Help = lazy(() => import("./screens/help/FirstSteps").then(({ Help }) => ({ default: Help })))
const Hosts = lazy(() => import("./screens/hosts/Hosts").then(({ Hosts }) => ({ default: Hosts })))
const Redirects = lazy(() =>
  import("./screens/contents/Redirects").then(({ Redirects }) => ({ default: Redirects })),
)
const Sites = lazy(() => import("./screens/sites/Sites").then(({ Sites }) => ({ default: Sites })))
const Account = lazy(() => import("./screens/account/Account").then(({ Account }) => ({ default: Account })))
const Trail = lazy(() => import("./screens/account/Trail").then(({ Trail }) => ({ default: Trail })))

export function App() {
  const session = useSession()
  const { pathname } = useLocation()
  const signedIn = Boolean(session.data?.person)
  // A screen that is still being loaded is waited for with what was there before: once React has shown nothing in its
  // place, it goes on showing nothing for 0.3 s, however soon the screen is there.
  const opened = useDeferredValue(signedIn, false)
  useEffect(() => {
    if (!signedIn) return
    // What fails now is asked for again when it is wanted.
    const soon = window.setTimeout(() => void writing().catch(() => undefined), 1500)
    return () => window.clearTimeout(soon)
  }, [signedIn])
  if (session.isPending) return null
  if (session.error)
    return (
      <Sentence
        title={t`Still Page is not there`}
        text={session.error.message}
        again={() => session.refetch()}
        alone
      />
    )
  if (!session.data.person) return <SignIn />
  if (!opened) return null
  // A reader who came from a public site to sign in is led back there by the server.
  if (location.pathname.startsWith("/reader/")) return <LeadBack />
  const limits = {
    picture: session.data.upload_limit,
    document: session.data.document_limit,
    film: session.data.film_limit,
    pageFilm: session.data.page_film_limit,
  }
  return (
    <Boundary place={pathname}>
      <Heard />
      <Routes>
        <Route path="/" element={<Contents />} />
        <Route path="/sites/:siteId" element={<Contents />} />
        <Route path="/sites/:siteId/checks" element={<SiteChecks />} />
        <Route path="/sites/:siteId/results" element={<Results />} />
        <Route path="/sites/:siteId/outside-links" element={<OutsideLinks />} />
        <Route path="/sites/:siteId/redirects" element={<Redirects />} />
        <Route path="/sites" element={<Sites />} />
        <Route path="/help" element={<Help />} />
        <Route path="/help/checks" element={<Checks />} />
        <Route path="/help/checks/:check" element={<Checks />} />
        <Route path="/account" element={<Account session={session.data} />} />
        <Route path="/trail" element={<Trail />} />
        <Route path="/hosts" element={<Hosts />} />
        <Route path="/library" element={<Library session={session.data} />} />
        <Route path="/films/:itemId" element={<Captions />} />
        <Route
          path="/pages/:pageId"
          element={<Writing limits={limits} person={session.data.person.username} />}
        />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Boundary>
  )
}

/** Asks the server anew, once: whoever may read there is led back. */
function LeadBack() {
  const asked = sessionStorage.getItem("reader:asked") === location.href
  useEffect(() => {
    sessionStorage.setItem("reader:asked", location.href)
    if (!asked) location.reload()
    return () => sessionStorage.removeItem("reader:asked")
  }, [asked])
  return asked ? (
    <Sentence
      title={t`Not for this account`}
      text={t`This account may not read what is for signed-in readers there.`}
    />
  ) : null
}
