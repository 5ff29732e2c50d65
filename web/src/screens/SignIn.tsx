import { Button, chakra, Field, Heading, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQueryClient } from "@tanstack/react-query"
import { type FormEvent, useState } from "react"
import { answers } from "../api/answers"
import { ask, client } from "../api/client"
import { useSession } from "../look/useSession"

export function SignIn() {
  const [wrong, setWrong] = useState("")
  const [busy, setBusy] = useState(false)
  const queries = useQueryClient()
  const demo = useSession().data?.demo

  const signIn = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    const form = new FormData(event.currentTarget)
    const body = { username: String(form.get("username")), password: String(form.get("password")) }
    setBusy(true)
    setWrong("")
    try {
      queries.setQueryData(answers.session, await ask(client.POST("/api/session", { body })))
    } catch (error) {
      setWrong((error as Error).message)
      setBusy(false)
    }
  }

  return (
    <chakra.main maxW="24rem" mx="auto" pt="14vh" px="6">
      <Heading as="h1" size="3xl" fontWeight="500" mb="1">
        <Trans>Still Page</Trans>
      </Heading>
      <Text color="quiet" mb="8">
        <Trans>What you write is what readers get.</Trans>
      </Text>
      <form aria-label={t`Sign in`} onSubmit={signIn}>
        <Stack gap="4">
          <Field.Root required>
            <Field.Label>
              <Trans>Name</Trans>
            </Field.Label>
            <Input name="username" autoComplete="username" autoFocus borderColor="edge" bg="paper" />
          </Field.Root>
          <Field.Root required>
            <Field.Label>
              <Trans>Password</Trans>
            </Field.Label>
            <Input
              name="password"
              type="password"
              autoComplete="current-password"
              borderColor="edge"
              bg="paper"
            />
          </Field.Root>
          <Text role="alert" color="wrong" minH="1.5em">
            {wrong}
          </Text>
          <Button type="submit" loading={busy} loadingText={t`Signing in`}>
            <Trans>Sign in</Trans>
          </Button>
        </Stack>
      </form>
      {demo && (
        <Text mt="8" fontSize="sm" color="quiet">
          <Trans>
            This is the demo. Its accounts and their password stand where it was started, and in what comes
            with it: write nothing here that is not for everybody.
          </Trans>
        </Text>
      )}
    </chakra.main>
  )
}
