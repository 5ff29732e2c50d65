import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { useQueryClient } from "@tanstack/react-query"
import type { ReactNode } from "react"
import { Link } from "react-router"
import { ask, client } from "../api/client"
import { useSession } from "./useSession"

const RouterLink = chakra(Link)

interface Props {
  children?: ReactNode
  /** Whether the way back to the Contents stands in it already; a narrow screen needs no second one. */
  trail?: boolean
}

/** The line at the top of every screen: where I am, and who I am. */
export function Top({ children, trail = false }: Props) {
  const session = useSession()
  const queries = useQueryClient()
  const signOut = async () => {
    await ask(client.DELETE("/api/session"))
    queries.clear()
  }
  return (
    <chakra.header
      aria-label="Still Page"
      display="flex"
      flexWrap="wrap"
      alignItems="baseline"
      justifyContent="space-between"
      gap="1 6"
      px="4"
      py="1.5"
      borderBottomWidth="1px"
      borderColor="line"
    >
      {children ?? <span />}
      <HStack gap="3" fontSize="sm">
        <HStack
          as="nav"
          aria-label="Everything"
          gap="3"
          display={{ base: trail ? "none" : "flex", md: "flex" }}
        >
          <To to="/">Contents</To>
          <To to="/library">Library</To>
        </HStack>
        {session.data?.demo && (
          <Text color="waits" title="Everybody can read the passwords of the demo.">
            Demo
          </Text>
        )}
        <chakra.span display={{ base: trail ? "none" : "inline", md: "inline" }}>
          <To to="/account">{session.data?.person?.name ?? "Account"}</To>
        </chakra.span>
        <Button size="xs" variant="ghost" onClick={signOut}>
          Sign out
        </Button>
      </HStack>
    </chakra.header>
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
