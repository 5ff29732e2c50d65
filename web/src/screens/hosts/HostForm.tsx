import { Button, chakra, Field, HStack, Input, Stack, Text, Textarea } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type ReactNode, useState } from "react"
import { ask, client, type HostIn, type HostTried } from "../../api/client"
import { useNotKept } from "../../look/NotKept"
import { clock } from "../../look/words"

const OPTIONS = [
  ["start", t`Begin at a second`, "t={}"],
  ["captions", t`Show its captions`, "cc=1"],
  ["muted", t`Without sound`, "mute=1"],
  ["loop", t`Again and again`, "loop=1"],
  ["autoplay", t`Begin by itself, once it was pressed`, "autoplay=1"],
] as const

interface Props {
  given: HostIn
  onKeep(given: HostIn): Promise<void>
  onCancel(): void
}

/** What is known of a host, to be written, tried and kept. */
export function HostForm({ given, onKeep, onCancel }: Props) {
  // What is known is looked at again now and then; what is typed goes on from what was there when one began.
  const [begun] = useState(given)
  const [host, setHost] = useState(begun)
  const [addresses, setAddresses] = useState(begun.addresses.join("\n"))
  const [problem, setProblem] = useState("")
  useNotKept(JSON.stringify(host) !== JSON.stringify(begun) || addresses !== begun.addresses.join("\n"))
  const said = { ...host, addresses: addresses.split("\n").filter((line) => line.trim()) }
  const text = (name: "name" | "endpoint" | "frames") => ({
    value: host[name],
    bg: "paper",
    borderColor: "edge",
    size: "sm" as const,
    onChange: (event: { target: { value: string } }) => setHost({ ...host, [name]: event.target.value }),
  })
  return (
    <chakra.form
      aria-label={given.name ? t`What is known of ${given.name}` : t`A new host`}
      onSubmit={(event) => {
        event.preventDefault()
        onKeep(said).catch((error: Error) => setProblem(error.message))
      }}
    >
      <Stack gap="4" maxW="36rem">
        <Labelled label={t`Name`} help={t`As readers know it.`}>
          <Input {...text("name")} maxLength={80} autoFocus />
        </Labelled>
        <Labelled
          label={t`Addresses of its films`}
          help={t`One a line. An asterisk stands for anything, as in https://films.example/watch/*`}
        >
          <Textarea
            rows={3}
            value={addresses}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setAddresses(event.target.value)}
          />
        </Labelled>
        <Labelled
          label={t`Where it answers (oEmbed)`}
          help={t`The host's own help says it, as in https://films.example/oembed`}
        >
          <Input {...text("endpoint")} maxLength={2000} />
        </Labelled>
        <Labelled
          label={t`Where its player comes from`}
          help={t`The beginning of the addresses of its frames; from nowhere else is anything framed. As in https://play.films.example`}
        >
          <Input {...text("frames")} maxLength={255} />
        </Labelled>
        <Stack as="fieldset" gap="2">
          <chakra.legend fontSize="sm" fontWeight="600">
            <Trans>What its player can be told</Trans>
          </chakra.legend>
          <Text fontSize="sm" color="quiet">
            <Trans>
              As it stands in the address of the frame; braces stand for a number. Leave out what the player
              does not honour: authors are offered only what stands here.
            </Trans>
          </Text>
          {OPTIONS.map(([name, label, example]) => (
            <HStack key={name} as="label" gap="3">
              <chakra.span flex="1" fontSize="sm">
                {label}
              </chakra.span>
              <Input
                size="sm"
                w="12rem"
                maxLength={90}
                value={host.options?.[name] ?? ""}
                placeholder={example}
                _placeholder={{ color: "quiet" }}
                bg="paper"
                borderColor="edge"
                onChange={(event) =>
                  setHost({ ...host, options: { ...host.options, [name]: event.target.value } })
                }
              />
            </HStack>
          ))}
        </Stack>
        <Trying host={said} />
        <Text role="status" color="wrong" fontSize="sm">
          {problem}
        </Text>
        <HStack gap="3">
          <Button type="submit" size="sm">
            <Trans>Keep this host</Trans>
          </Button>
          <Button size="sm" variant="outline" onClick={onCancel}>
            <Trans>Leave it as it was</Trans>
          </Button>
        </HStack>
      </Stack>
    </chakra.form>
  )
}

function Labelled({ label, help, children }: { label: string; help: string; children: ReactNode }) {
  return (
    <Field.Root required>
      <Field.Label>{label}</Field.Label>
      {children}
      <Field.HelperText color="quiet">{help}</Field.HelperText>
    </Field.Root>
  )
}

/** Asks the host as it is typed for one of its films; nothing is kept by that. */
function Trying({ host }: { host: HostIn }) {
  const [address, setAddress] = useState("")
  const [tried, setTried] = useState<HostTried | null>(null)
  const [told, setTold] = useState("")
  const run = async () => {
    setTried(null)
    setTold(t`Asking …`)
    try {
      setTried(await ask(client.POST("/api/hosts/try", { body: { host, address } })))
      setTold("")
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <Stack gap="2" role="group" aria-label={t`Try it here`} borderLeftWidth="3px" borderColor="line" pl="4">
      <Field.Root>
        <Field.Label>
          <Trans>Try it here: the address of a film, or its code</Trans>
        </Field.Label>
        <HStack w="full">
          <Input
            size="sm"
            value={address}
            maxLength={20000}
            bg="paper"
            borderColor="edge"
            onChange={(event) => setAddress(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== "Enter") return
              event.preventDefault()
              void run()
            }}
          />
          <Button size="sm" variant="outline" disabled={!address.trim()} onClick={() => void run()}>
            <Trans>Try</Trans>
          </Button>
        </HStack>
      </Field.Root>
      <Text role="status" fontSize="sm">
        {told}
      </Text>
      {tried && <Tried tried={tried} />}
    </Stack>
  )
}

function Tried({ tried }: { tried: HostTried }) {
  return (
    <Stack gap="1" fontSize="sm">
      <Text>
        <Trans>
          It answers: “{tried.title}”, {tried.author ? t`by ${tried.author}, ` : ""}
          {tried.width} × {tried.height}
          {tried.lasts ? t`, ${clock(tried.lasts * 1000)} long` : t`, how long is not said`}
          {tried.cover ? t`, with a cover.` : t`, without a cover.`}
        </Trans>
      </Text>
      <chakra.a
        href={tried.with_options || tried.frame}
        target="_blank"
        rel="noopener noreferrer"
        color="press.fg"
        textDecoration="underline"
        wordBreak="break-all"
      >
        {tried.with_options
          ? t`Its player with everything that stands above, in a new window: see whether it honours that`
          : t`Its player, in a new window`}
      </chakra.a>
    </Stack>
  )
}
