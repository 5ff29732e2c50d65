import { useQuery } from "@tanstack/react-query"
import { Navigate, Route, Routes } from "react-router"
import { ask, client, type Session } from "./api/client"
import { Sentence } from "./look/Sentence"
import { Contents } from "./screens/contents/Contents"
import { Library } from "./screens/library/Library"
import { SignIn } from "./screens/SignIn"
import { Writing } from "./screens/writing/Writing"

/** Who is signed in; asked once, and again after signing in or out. */
export function useSession() {
  return useQuery<Session, Error>({ queryKey: ["session"], queryFn: () => ask(client.GET("/api/session")) })
}

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
  return (
    <Routes>
      <Route path="/" element={<Contents />} />
      <Route path="/sites/:siteId" element={<Contents />} />
      <Route path="/library" element={<Library uploadLimit={session.data.upload_limit} />} />
      <Route path="/pages/:pageId" element={<Writing uploadLimit={session.data.upload_limit} />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  )
}
