/** One's own account: the password, and where one is signed in. */

import { Button, chakra, Field, Heading, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { type FormEvent, useEffect, useState } from "react"
import { after, answers, forget } from "../../api/answers"
import { ask, client, type Session, type SignedInAt } from "../../api/client"
import { To, Top } from "../../look/Top"
import { moment } from "../../look/words"

export function Account({ session }: { session: Session }) {
  useEffect(() => {
    document.title = t`Your account, Still Page`
  }, [])
  return (
    <>
      <Top />
      <chakra.main maxW="40rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" lineHeight="1.2" mb="1">
          <Trans>Your account</Trans>
        </Heading>
        <Text color="quiet" mb="8">
          <Trans>
            {session.person?.name}, signing in as {session.person?.username}
          </Trans>
        </Text>
        <Password name={session.person?.username ?? ""} />
        <SignedIn />
        {session.may_keep_hosts && (
          <Text mt="10">
            <Trans>
              <To to="/hosts">Hosts of films and posts</To>: from where they may be shown on pages.
            </Trans>
          </Text>
        )}
        {session.may_read_trail && (
          <Text mt="4">
            <Trans>
              <To to="/trail">The audit trail</To>: who did what, when, and from where.
            </Trans>
          </Text>
        )}
      </chakra.main>
    </>
  )
}

function Password({ name }: { name: string }) {
  const [said, setSaid] = useState({ wrong: false, sentence: "" })
  const [busy, setBusy] = useState(false)
  const queries = useQueryClient()
  const change = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = event.currentTarget
    const given = new FormData(form)
    const body = { present: String(given.get("present")), new: String(given.get("new")) }
    setBusy(true)
    try {
      await ask(client.PUT("/api/account/password", { body }))
      form.reset()
      setSaid({ wrong: false, sentence: t`Your password is changed. Elsewhere you are signed out.` })
      await forget(queries, after.sessions)
    } catch (error) {
      setSaid({ wrong: true, sentence: (error as Error).message })
    }
    setBusy(false)
  }
  return (
    <chakra.section aria-labelledby="password" mb="10">
      <Heading as="h2" id="password" size="lg" fontWeight="500" mb="3">
        <Trans>Password</Trans>
      </Heading>
      <form aria-labelledby="password" onSubmit={change}>
        <Stack gap="4" maxW="24rem">
          <input type="text" name="username" value={name} autoComplete="username" readOnly hidden />
          <Field.Root required>
            <Field.Label>
              <Trans>The present one</Trans>
            </Field.Label>
            <Input
              name="present"
              type="password"
              autoComplete="current-password"
              borderColor="edge"
              bg="paper"
            />
          </Field.Root>
          <Field.Root required>
            <Field.Label>
              <Trans>The new one</Trans>
            </Field.Label>
            <Input
              name="new"
              type="password"
              autoComplete="new-password"
              minLength={12}
              maxLength={128}
              borderColor="edge"
              bg="paper"
            />
            <Field.HelperText color="quiet">
              <Trans>
                12 characters or more. Several words that do not belong together are hard to guess and easy to
                keep in mind.
              </Trans>
            </Field.HelperText>
          </Field.Root>
          <Text role="status" color={said.wrong ? "wrong" : "ink"}>
            {said.sentence}
          </Text>
          <Button type="submit" alignSelf="flex-start" loading={busy} loadingText={t`Changing`}>
            <Trans>Change the password</Trans>
          </Button>
        </Stack>
      </form>
    </chakra.section>
  )
}

function SignedIn() {
  const queries = useQueryClient()
  const [problem, setProblem] = useState("")
  const sessions = useQuery({
    queryKey: answers.sessions,
    queryFn: () => ask(client.GET("/api/account/sessions")),
    staleTime: 0,
  })
  const end = async (id: string) => {
    try {
      await ask(client.DELETE("/api/account/sessions/{session_id}", { params: { path: { session_id: id } } }))
      setProblem("")
    } catch (error) {
      setProblem((error as Error).message)
    }
    await forget(queries, after.sessions)
  }
  const found = sessions.data ?? []
  return (
    <chakra.section aria-labelledby="sessions">
      <Heading as="h2" id="sessions" size="lg" fontWeight="500" mb="3">
        <Trans>Where you are signed in</Trans>
      </Heading>
      {/* This window's own comes for sure: what stands below does not move when it does. */}
      <chakra.ul listStyleType="none" aria-labelledby="sessions" minH="4rem">
        {found.map((each) => (
          <chakra.li key={each.id} py="2" borderTopWidth="1px" borderColor="line">
            <HStack justifyContent="space-between" gap="4" flexWrap="wrap">
              <span>
                {browserOf(each)}
                <chakra.span color="quiet" display="block" fontSize="sm">
                  <Trans>
                    {each.address && t`From ${each.address}, `}since {moment(each.begun_at)}, last used{" "}
                    {moment(each.seen_at)}
                  </Trans>
                </chakra.span>
              </span>
              {each.present ? (
                <Text fontSize="sm">
                  <Trans>This window</Trans>
                </Text>
              ) : (
                <Button
                  size="xs"
                  variant="outline"
                  aria-label={t`Sign out there: ${browserOf(each)}, since ${moment(each.begun_at)}`}
                  onClick={() => void end(each.id)}
                >
                  <Trans>Sign out there</Trans>
                </Button>
              )}
            </HStack>
          </chakra.li>
        ))}
      </chakra.ul>
      {found.length > 2 && (
        <Button mt="3" size="sm" variant="outline" onClick={() => void end("others")}>
          <Trans>Sign out everywhere else</Trans>
        </Button>
      )}
      <Text role="status" color="wrong" mt="2">
        {problem || sessions.error?.message}
      </Text>
    </chakra.section>
  )
}

/** What a browser says of itself, in two words. */
function browserOf({ agent }: SignedInAt): string {
  const browser = /(Firefox|Edg|OPR|Chrome|Safari)/.exec(agent)?.[1] ?? ""
  const name = { Edg: "Edge", OPR: "Opera" }[browser] ?? browser
  const system = /(Windows|Android|iPhone|iPad|Mac OS X|Linux)/.exec(agent)?.[1]
  if (!name) return agent.slice(0, 60) || t`A browser that does not say what it is`
  return system ? t`${name} on ${system}` : name
}
