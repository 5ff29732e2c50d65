import { Button, chakra, Heading, HStack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { Component, type ReactNode } from "react"

interface Props {
  /** Where one is: elsewhere the fault is forgotten. */
  place: string
  children: ReactNode
}
interface State {
  error: Error | null
}

/** A part of the interface that a newer version has replaced on the server, or that did not arrive. */
const isMissing = (error: Error) =>
  /dynamically imported module|module script|preload CSS/i.test(error.message)

/**
 * What is shown where a part of the interface breaks. What was written is in the browser's own keeping by then (the
 * journal, `editor/journal.ts`), and is offered when the page is opened again.
 */
export class Boundary extends Component<Props, State> {
  override state: State = { error: null }

  static getDerivedStateFromError(error: unknown): State {
    return { error: error instanceof Error ? error : new Error(String(error)) }
  }

  override componentDidUpdate(before: Props) {
    if (before.place !== this.props.place && this.state.error) this.setState({ error: null })
  }

  override render() {
    const { error } = this.state
    if (!error) return this.props.children
    return (
      <chakra.main maxW="34rem" mx="auto" mt="20vh" px="6" role="alert">
        <Heading as="h1" size="2xl" fontWeight="500" mb="3">
          {isMissing(error) ? t`A part of Still Page did not arrive` : t`Something in Still Page broke`}
        </Heading>
        <Text mb="3">
          <Trans>
            {isMissing(error)
              ? t`The connection failed, or Still Page was renewed while you worked.`
              : t`That is a fault of ours, and not of anything you did.`}{" "}
            Your words are safe: what is not saved yet is kept in this browser, and is there when you open the
            page again.
          </Trans>
        </Text>
        {!isMissing(error) && (
          <Text mb="5" color="quiet" fontSize="sm">
            <Trans>
              If it happens again, tell whoever looks after Still Page: “{error.message.slice(0, 200)}”.
            </Trans>
          </Text>
        )}
        <HStack gap="3" mt="5">
          <Button autoFocus onClick={() => location.reload()}>
            <Trans>Open it anew</Trans>
          </Button>
          <Button variant="outline" onClick={() => location.assign("/")}>
            <Trans>Go to Contents</Trans>
          </Button>
        </HStack>
      </chakra.main>
    )
  }
}
