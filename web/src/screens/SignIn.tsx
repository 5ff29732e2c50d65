import { Button, chakra, Field, Heading, Input, Stack, Text } from "@chakra-ui/react"
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
        Still Page
      </Heading>
      <Text color="quiet" mb="8">
        What you write is what readers get.
      </Text>
      <form aria-label="Sign in" onSubmit={signIn}>
        <Stack gap="4">
          <Field.Root required>
            <Field.Label>Name</Field.Label>
            <Input name="username" autoComplete="username" autoFocus borderColor="edge" bg="paper" />
          </Field.Root>
          <Field.Root required>
            <Field.Label>Password</Field.Label>
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
          <Button type="submit" loading={busy} loadingText="Signing in">
            Sign in
          </Button>
        </Stack>
      </form>
      {demo && (
        <Text mt="8" fontSize="sm" color="quiet">
          This is the demo. Its accounts and their password stand where it was started, and in what comes with
          it: write nothing here that is not for everybody.
        </Text>
      )}
    </chakra.main>
  )
}
