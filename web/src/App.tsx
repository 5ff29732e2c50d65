import { useEffect } from "react"
import { Navigate, Route, Routes } from "react-router"
import { Sentence } from "./look/Sentence"
import { useSession } from "./look/useSession"
import { Account } from "./screens/account/Account"
import { Trail } from "./screens/account/Trail"
import { OutsideLinks } from "./screens/checks/OutsideLinks"
import { SiteChecks } from "./screens/checks/SiteChecks"
import { Contents } from "./screens/contents/Contents"
import { Checks } from "./screens/help/Checks"
import { Library } from "./screens/library/Library"
import { SignIn } from "./screens/SignIn"
import { Writing } from "./screens/writing/Writing"

export function App() {
  const session = useSession()
  if (session.isPending) return null
  if (session.error)
    return (
      <Sentence
        title="Still Page is not there"
        text={session.error.message}
        again={() => session.refetch()}
      />
    )
  if (!session.data.person) return <SignIn />
  // A reader who came from a public site to sign in is led back there by the server.
  if (location.pathname.startsWith("/reader/")) return <LeadBack />
  const limits = { picture: session.data.upload_limit, document: session.data.document_limit }
  return (
    <Routes>
      <Route path="/" element={<Contents />} />
      <Route path="/sites/:siteId" element={<Contents />} />
      <Route path="/sites/:siteId/checks" element={<SiteChecks />} />
      <Route path="/sites/:siteId/outside-links" element={<OutsideLinks />} />
      <Route path="/help/checks" element={<Checks />} />
      <Route path="/help/checks/:check" element={<Checks />} />
      <Route path="/account" element={<Account session={session.data} />} />
      <Route path="/trail" element={<Trail />} />
      <Route path="/library" element={<Library session={session.data} />} />
      <Route
        path="/pages/:pageId"
        element={<Writing limits={limits} person={session.data.person.username} />}
      />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
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
      title="Not for this account"
      text="This account may not read what is for signed-in readers there."
    />
  ) : null
}
