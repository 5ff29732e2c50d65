import { Button, chakra, Heading, Text } from "@chakra-ui/react"
import { Trans } from "@lingui/react/macro"
import { Top } from "./Top"

interface Props {
  title: string
  text: string
  again?: () => void
  /** Whether nothing else can be gone to: nobody is signed in, or the server does not answer at all. */
  alone?: boolean
}

/** A whole screen that has only this to say, with a way on. */
export function Sentence({ title, text, again, alone = false }: Props) {
  return (
    <>
      {!alone && <Top />}
      <chakra.main maxW="34rem" mx="auto" mt="20vh" px="6">
        <Heading as="h1" size="2xl" fontWeight="500" mb="3">
          {title}
        </Heading>
        <Text mb="5">{text}</Text>
        {again && (
          <Button onClick={again}>
            <Trans>Try again</Trans>
          </Button>
        )}
      </chakra.main>
    </>
  )
}
