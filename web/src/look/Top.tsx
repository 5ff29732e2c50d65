import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { type ReactNode, useEffect } from "react"
import { Link, useNavigate } from "react-router"
import { ask, client } from "../api/client"
import { chordOf } from "../editor/chords"
import { firstStop, hold } from "./focus"
import { SkipLinks } from "./SkipLinks"
import { useSession } from "./useSession"

const RouterLink = chakra(Link)

interface Props {
  children?: ReactNode
  /** Whether the way back to the Contents stands in it already; a narrow screen needs no second one. */
  trail?: boolean
  /** Whether it is one of the parts that F6 goes round. */
  part?: boolean
}

/** The line at the top of every screen: where I am, and who I am. */
export function Top({ children, trail = false, part = false }: Props) {
  const session = useSession()
  const queries = useQueryClient()
  const signOut = async () => {
    await ask(client.DELETE("/api/session"))
    queries.clear()
  }
  const navigate = useNavigate()
  // While writing, the help stands beside the sheet instead.
  useEffect(() => {
    if (part) return
    const key = (event: KeyboardEvent) => {
      if (event.defaultPrevented || chordOf(event) !== "F1") return
      event.preventDefault()
      void navigate("/help")
    }
    window.addEventListener("keydown", key)
    return () => window.removeEventListener("keydown", key)
  }, [part, navigate])
  const header = (
    <chakra.header
      aria-label={t`Still Page`}
      data-part={part ? "top" : undefined}
      display="flex"
      flexWrap="wrap"
      alignItems="baseline"
      justifyContent="space-between"
      rowGap={{ base: "0", md: "1" }}
      columnGap={{ base: "3", md: "6" }}
      px={{ base: "2", md: "4" }}
      py={{ base: "1", md: "1.5" }}
      css={trail ? { "@media (max-width: 47.9em)": { flexWrap: "nowrap" } } : undefined}
      borderBottomWidth="1px"
      borderColor="line"
    >
      {children ?? <span />}
      <HStack
        rowGap="0"
        columnGap="3"
        fontSize="sm"
        flexWrap={{ base: trail ? "nowrap" : "wrap", md: "nowrap" }}
      >
        <HStack
          as="nav"
          aria-label={t`Everything`}
          gap="3"
          display={{ base: trail ? "none" : "flex", md: "flex" }}
        >
          <To to="/">
            <Trans>Contents</Trans>
          </To>
          <To to="/library">
            <Trans>Library</Trans>
          </To>
          <To to="/help">
            <Trans>Help</Trans>
          </To>
        </HStack>
        {session.data?.demo && (
          <Text color="waits" title={t`Everybody can read the passwords of the demo.`}>
            <Trans>Demo</Trans>
          </Text>
        )}
        <chakra.span display={{ base: trail ? "none" : "inline", md: "inline" }}>
          <To to="/account">{session.data?.person?.name ?? t`Account`}</To>
        </chakra.span>
        <Button size="xs" variant="ghost" onClick={signOut}>
          <Trans>Sign out</Trans>
        </Button>
      </HStack>
    </chakra.header>
  )
  if (part) return header
  return (
    <>
      <SkipLinks to={[[t`Skip to the main part`, toMain]]} />
      {header}
    </>
  )
}

function toMain() {
  const main = document.querySelector("main")
  if (main) hold(firstStop(main) ?? main)
}

/** The same, of a screen about a site. */
export function TopOfSite({ site }: { site: { id: number; name: string } | undefined }) {
  return (
    <Top>
      {site && (
        <To to={`/sites/${site.id}`}>
          <Trans>Contents of {site.name}</Trans>
        </To>
      )}
    </Top>
  )
}

/** The same, of a screen whose name says where one is. */
export function TopNamed({ name }: { name: string }) {
  return (
    <Top>
      <Text as="span" aria-current="page" fontWeight="600">
        {name}
      </Text>
    </Top>
  )
}

/** A link within the application, in running text. */
export function To({ to, children }: { to: string; children: ReactNode }) {
  return (
    <RouterLink to={to} color="press.fg" textDecoration="underline" textUnderlineOffset="3px">
      {children}
    </RouterLink>
  )
}
